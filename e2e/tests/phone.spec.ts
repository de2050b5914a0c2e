import { expect, onStaff, setFact, test, type } from '../fixtures'

test.use({ demo: true, viewport: { width: 390, height: 844 }, hasTouch: true })

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
