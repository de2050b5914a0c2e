import { cardOf, drawn, expect, onStaff, test } from '../fixtures'

test.use({ demo: true })

test('the address says what is looked at: reload stays, Back goes step by step', async ({ page, lab }) => {
  const ofSilo = new RegExp(
    `device=${(await lab.get<{ id: string; name: string }[]>('/api/v1/devices')).find((d) => d.name === 'silo')!.id}`,
  )
  await page.getByRole('button', { name: /As built/ }).click()
  await page.getByText('Draft: Quiet ember').click()
  await expect(page.getByText('Draft: Quiet ember.')).toBeVisible()
  await drawn(page, 'anvil, server, 12-13').click()
  await drawn(page, 'silo, NAS, 9-11').click()
  const card = cardOf(page)
  await expect(card.getByRole('button', { name: 'Name: silo, edit' })).toBeVisible()
  // The address is written a moment after the card; nobody goes back faster than that.
  await expect(page).toHaveURL(ofSilo)

  await page.reload()
  await expect(page.getByText('Draft: Quiet ember.')).toBeVisible()
  await expect(card.getByRole('button', { name: 'Name: silo, edit' })).toBeVisible()
  for (const key of ['ArrowDown', 'ArrowDown', 'ArrowDown']) await page.keyboard.press(key)
  await expect(card.getByRole('button', { name: 'Name: silo, edit' })).toBeHidden()
  await expect(page).not.toHaveURL(ofSilo)
  await page.goBack()
  await expect(card.getByRole('button', { name: 'Name: silo, edit' })).toBeVisible()
  await page.goBack()
  await expect(card.getByRole('button', { name: 'Name: anvil, edit' })).toBeVisible()

  await page.keyboard.press('2')
  await expect(page.getByRole('grid', { name: 'Gear' }).getByRole('gridcell', { name: 'anvil', exact: true })).toBeVisible()
  await page.goBack()
  await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()
  await expect(page.getByText('Draft: Quiet ember.')).toBeVisible()
})

test('a past day is chosen when its date is whole, and stays over a reload', async ({ page }) => {
  await page.getByRole('button', { name: /As built/ }).click()
  await page.getByLabel('As it was on').focus()
  await page.keyboard.type('11012026')
  await expect(page.getByText('The lab as it was on 1 Nov 2026')).toBeVisible()
  await page.reload()
  await expect(page.getByText('The lab as it was on 1 Nov 2026')).toBeVisible()
  await page.goto(page.url().replace(/view=[^&]*/, 'view=draft%3Agone'))
  await expect(page.getByText('There is no draft with the id "gone".')).toBeVisible()
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 } })

  test('Back closes the card', async ({ page }) => {
    await onStaff(page, 'anvil').click()
    const card = cardOf(page)
    await expect(card).toBeVisible()
    await expect(page).toHaveURL(/card=1/)
    await page.goBack()
    await expect(card).toBeHidden()
    await expect(onStaff(page, 'anvil')).toBeVisible()
  })
})
