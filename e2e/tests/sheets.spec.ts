import { readFileSync } from 'node:fs'
import { cardOf, expect, onStaff, setFact, test, type } from '../fixtures'

test('a spec sheet is copied, edited, given to a device, and exported', async ({ page }) => {
  await type(page, 'rack "Cupboard": 12U, 19in, 800mm deep')
  await type(page, '5 switch "core"')
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: /Gear/ }).click()
  await page.getByRole('link', { name: 'Spec sheets' }).click()
  const list = page.getByRole('navigation', { name: 'Spec sheets' })
  await list.getByRole('searchbox').fill('switch 24 sfp+ poe')
  await list.getByRole('button', { name: /^1U PoE switch, 24 x 1G at \+ 4 x SFP\+/ }).click()
  await expect(page.getByText('Included with Levelstaff; copy it into this lab to change it')).toBeVisible()
  await page.getByRole('button', { name: 'Copy it into this lab' }).click()
  await expect(page.getByRole('button', { name: 'Name: 1U PoE switch, 24 x 1G at + 4 x SFP+, edit' })).toBeVisible()
  await setFact(page, 'Name', 'Tarn 24P')
  await setFact(page, 'Weight', '11 stone', page.locator('article'))
  await expect(page.locator('article').getByRole('alert')).toContainText('stone')
  await page.keyboard.press('Escape')
  await setFact(page, 'Weight', '9lb', page.locator('article'))
  await expect(page.getByRole('button', { name: 'Weight: 4.082 kg, edit' })).toBeVisible()
  await expect(page.getByRole('img', { name: 'Tarn 24P, front' })).toBeVisible()

  await page.getByRole('link', { name: /Rack/ }).click()
  await onStaff(page, 'core').click()
  const card = cardOf(page)
  await card.getByRole('button', { name: 'pick one' }).click()
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Tarn 24P/ })
    .click()
  await expect(card.getByRole('button', { name: 'Weight: 4.082 kg, edit' })).toBeVisible()
  await page.getByRole('link', { name: /Gear/ }).click()
  await page.getByRole('link', { name: 'Spec sheets' }).click()
  await expect(page.getByRole('article').getByRole('button', { name: 'core' })).toBeVisible()
  await expect(page.getByRole('article').getByRole('button', { name: 'Remove it' })).toBeDisabled()

  const saved = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Export this lab’s sheets' }).click()
  const text = readFileSync(await (await saved).path(), 'utf8')
  await page.getByRole('button', { name: 'Import sheets' }).click()
  const dialog = page.getByRole('dialog', { name: 'Import and export' })
  await dialog.getByLabel('File to load').setInputFiles({ name: 'sheets.json', mimeType: 'application/json', buffer: Buffer.from(text) })
  await expect(dialog.getByText('It matches the lab; there is nothing to change.')).toBeVisible()
  await dialog.getByLabel('File to load').setInputFiles({
    name: 'sheets.json',
    mimeType: 'application/json',
    buffer: Buffer.from(text.replace('Tarn 24P', 'Tarn 24Q').replace(/"id": "[^"]+"/, '"id": "theirs"')),
  })
  await dialog.getByRole('button', { name: 'Load sheets.json: 1 change' }).click()
  await list.getByRole('searchbox').fill('tarn')
  await expect(list.getByRole('button', { name: /^Tarn 24[PQ]/ })).toHaveCount(2)
})
