// Power: a supply is plugged in by drag and by keys, a breaker is lost, what the
// checks say goes as it is mended.
import type { Page } from '@playwright/test'
import { cardOf, expect, test, type } from '../fixtures'

const box = (page: Page, name: string) => page.locator(`[data-box][aria-label^="${name}"]`)

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('the second supply is plugged in by drag, and the finding goes', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    const card = cardOf(page)
    await expect(card).toContainText('Supply in2 of silo is plugged in nowhere.')
    await expect(box(page, 'silo')).toHaveAttribute('aria-label', /in2 plugged in nowhere/)
    const supply = page.locator('[data-supply="silo/in2"]')
    const strip = box(page, 'strip B, strip')
    const from = (await supply.boundingBox())!
    const to = (await strip.boundingBox())!
    await page.mouse.move(from.x + 8, from.y + 8)
    await page.mouse.down()
    await page.mouse.move(from.x - 40, from.y - 40, { steps: 4 })
    await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 6 })
    await page.mouse.up()
    await expect(box(page, 'silo')).toHaveAttribute('aria-label', /fed by .*strip B/)
    await page.keyboard.press('9')
    await expect(page.getByText('All supplies of silo hang on keep.')).toBeVisible()
    await expect(page.getByText('Supply in2 of silo is plugged in nowhere.')).toBeHidden()
    await page.keyboard.press('Control+z')
    await expect(page.getByText('Supply in2 of silo is plugged in nowhere.')).toBeVisible()
  })

  test('a supply is led to another strip by keys', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    await page.locator('[data-supply="silo/in2"]').click()
    await expect(page.getByText('in2 of silo goes to: pick what is to feed it, or Escape.')).toBeVisible()
    await box(page, 'strip B, strip').focus()
    await page.keyboard.press('Enter')
    await expect(box(page, 'silo')).toHaveAttribute('aria-label', /fed by .*strip B/)
    await expect(cardOf(page)).toContainText('strip B')
  })

  test('a breaker is lost, and what goes dark is told and drawn', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    await page
      .getByRole('region', { name: 'If one thing is lost' })
      .getByRole('button', { name: /^kitchen 4/ })
      .click()
    const row = page.getByRole('row', { name: /^kitchen 4/ })
    await expect(row).toContainText('attic copy, console, lines, loft switch, lookout, thrush')
    await expect(row).toContainText('anvil, core, gate')
    await expect(page.locator('[data-box].dark', { hasText: 'loft switch' })).toBeVisible()
    await expect(box(page, 'anvil')).toHaveAttribute('aria-label', /runs on the battery/)
  })

  test('the card says on what a load rests, and which outlets are free', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    await box(page, 'keep, UPS').click()
    const card = cardOf(page)
    await expect(card).toContainText('348 W, 366 VA of 900 W, 1500 VA')
    await expect(card.getByRole('listitem').filter({ hasText: 'only filters' }).first()).toContainText('strip B')
    await box(page, 'kitchen 4, circuit').click()
    await expect(card).toContainText('of 2944 W')
  })
})

test('power is typed line by line, and said back', async ({ page }) => {
  await type(page, 'circuit "kitchen 4": 16A 230V')
  await type(page, 'wall outlet "left": 2 outlets uk, on circuit "kitchen 4"')
  await type(page, 'ups "keep": 1500VA/900W, 4 outlets c13 battery, 4 outlets c13 filtered')
  await type(page, 'server "anvil": 168W typical, 310W max')
  await type(page, 'left/out1 - keep/in1')
  await type(page, 'keep/out1 - anvil/in1')
  await page.getByRole('link', { name: /Power/ }).click()
  await expect(box(page, 'anvil')).toHaveAttribute('aria-label', 'anvil: 168 W typical, fed by keep')
  await expect(box(page, 'kitchen 4, circuit')).toHaveAttribute('aria-label', /168 of 2944 W typical/)
  await page.getByRole('button', { name: 'most', exact: true }).click()
  await expect(box(page, 'keep, UPS')).toHaveAttribute('aria-label', /310 W at most/)
})

test.describe('at the rack and in files', () => {
  test.use({ demo: true })

  test('through the lens of feeds one sees what hangs on which feed, and what has one leg', async ({ page }) => {
    await page.getByRole('combobox', { name: 'Lens' }).selectOption('feeds')
    const front = page.locator('g.device', { hasText: 'silo' }).first()
    await expect(front).toContainText('keep · one leg')
    await expect(page.locator('g.device', { hasText: 'anvil' }).first()).toContainText('keep')
  })

  test('an outlet plan is read with a preview', async ({ page }) => {
    await page.getByRole('button', { name: /^As built/ }).click()
    await page.getByText('Import and export').click()
    await page.getByLabel('File to load').setInputFiles({
      name: 'outlet_plan.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('feeder,outlet,device,supply\nstrip B,out4,silo,in2\n'),
    })
    const dialog = page.getByRole('dialog')
    await expect(dialog).toContainText('strip B/out4 feeds silo/in2')
    await dialog.getByRole('button', { name: /^Load/ }).click()
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: /Power/ }).click()
    await expect(box(page, 'silo')).toHaveAttribute('aria-label', /fed by .*strip B/)
  })

  test('what feeds what is a list on a phone, and a drawing as a file', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    const saved = page.waitForEvent('download')
    await page.getByRole('button', { name: 'SVG' }).click()
    expect((await saved).suggestedFilename()).toBe('feeds.svg')
    await page.setViewportSize({ width: 390, height: 844 })
    await page.reload()
    await expect(page.getByRole('listitem').filter({ hasText: 'silo' })).toContainText('in2 plugged in nowhere')
    await page.getByRole('listitem').filter({ hasText: 'keep' }).first().getByRole('button').first().click()
    await expect(cardOf(page)).toContainText('348 W, 366 VA of 900 W, 1500 VA')
  })

  test('what switches give over the network is told by class', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    await page.getByRole('link', { name: 'PoE' }).click()
    const core = page.getByRole('region', { name: 'core' })
    await expect(core).toContainText('≥ 75.4 of 195 W by class')
    await expect(core.getByRole('row', { name: /loft ap/ })).toContainText('30 W')
    await expect(core.getByRole('row', { name: /hall ap/ })).toContainText('?')
  })

  test('places are folded, and opened again', async ({ page }) => {
    await page.getByRole('link', { name: /Power/ }).click()
    await page.getByRole('button', { name: 'Pantry', exact: true }).click()
    await expect(box(page, 'Pantry, folded')).toHaveAttribute('aria-label', /things/)
    await expect(box(page, 'anvil')).toHaveCount(0)
    await box(page, 'Pantry, folded').click()
    await expect(box(page, 'anvil')).toBeVisible()
  })

  test('what is to be bought is told where it could be plugged in', async ({ page }) => {
    await page.getByRole('button', { name: 'Does it fit?' }).click()
    const dialog = page.getByRole('dialog')
    await dialog.getByRole('textbox', { name: 'Or the facts from the listing' }).fill('server, 2U high, 2000W max')
    const outlets = dialog.getByRole('region', { name: 'Outlets' })
    await expect(outlets).toContainText('2000 W')
    await expect(outlets.getByRole('listitem').filter({ hasText: 'tower' })).toContainText('4 free, 2361 W left by kitchen 4')
    await expect(outlets.getByRole('listitem').filter({ hasText: 'strip B' })).toContainText('too little')
  })
})
