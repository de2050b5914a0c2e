import type { Page } from '@playwright/test'
import { expect, onStaff, setFact, test, type } from '../fixtures'

test.use({ demo: true, viewport: { width: 390, height: 844 }, hasTouch: true })

/** The mark opens the list of all sheets. */
async function toSheet(page: Page, name: string) {
  await page.getByRole('button', { name: /: all sheets$/ }).tap()
  await page.getByRole('navigation', { name: 'All sheets' }).getByRole('link', { name }).tap()
}

test('at the rack, a phone shows the staff, fills in a fact and adds a thing', async ({ page }) => {
  await expect(page.getByText('6 U free')).toBeVisible()
  await onStaff(page, 'gate').tap()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  await setFact(page, 'Weight', '6.5')
  await expect(page.getByRole('button', { name: 'Weight: 6.5 kg, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()

  await page.getByRole('button', { name: '19-20: 2U free, put something here' }).tap()
  await expect(page.getByRole('combobox', { name: 'Quick line' })).toHaveValue('19-20 ')
  await type(page, '19 switch "attic"')
  await expect(onStaff(page, 'attic')).toBeVisible()
  await expect(page.getByText('5 U free')).toBeVisible()
  for (const button of await page.getByRole('navigation', { name: 'Staff' }).locator('[data-staff]').all()) {
    expect((await button.boundingBox())!.height).toBeGreaterThanOrEqual(41)
  }
})

test('on a phone one finds a thing, ticks off a step and writes a note', async ({ page }) => {
  await page.getByRole('button', { name: 'Find', exact: true }).tap()
  await page.keyboard.type('bateries')
  await page.getByRole('listbox').getByRole('option').first().tap()
  await expect(page.getByRole('button', { name: 'Name: keep, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()

  await toSheet(page, 'Drafts')
  const steps = page.getByRole('complementary', { name: 'Steps of the draft' })
  await steps.getByRole('button', { name: 'Done: server "ember" removed' }).tap()
  await expect(steps.getByText('✓')).toHaveCount(1)
  await page.getByRole('button', { name: 'Undo' }).tap()
  await expect(steps.getByText('✓')).toHaveCount(0)

  await toSheet(page, 'Findings')
  await page.getByRole('button', { name: 'ember', exact: true }).first().tap()
  await expect(page.getByRole('button', { name: 'State: faulty, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()
  await toSheet(page, 'Logbook')
  await page.getByRole('textbox', { name: 'Note by hand' }).fill('Dusted the top of the rack')
  await page.getByRole('button', { name: 'Add note' }).tap()
  await expect(page.getByText('Dusted the top of the rack', { exact: true })).toBeVisible()
  const wide = await page.evaluate(() => document.documentElement.scrollWidth)
  expect(wide, 'nothing sticks out at the side').toBeLessThanOrEqual(390)
})
