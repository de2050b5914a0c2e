import { cardOf, drawn, expect, onStaff, quick, test } from '../fixtures'

test.use({ demo: true })

test('the page says by heading and title what it is about, and focus goes along and back', async ({ page }) => {
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Rack: Pantry')
  await expect(page).toHaveTitle('Pantry · Rack · Quarry House')
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('ArrowDown')
  await expect(onStaff(page, 'core')).toBeFocused()
  await expect(page).toHaveTitle('core · Rack · Quarry House')

  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(onStaff(page, 'core')).toBeFocused()

  await page.keyboard.press('3')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Cabling: core')
  await page.keyboard.press('1')
  await page.getByRole('link', { name: 'To the card' }).focus()
  await page.keyboard.press('Enter')
  await expect(cardOf(page)).toBeFocused()
})

test('a line that is refused says why beside it, and Tab goes on', async ({ page }) => {
  await quick(page).fill('7 swich "x"')
  await page.keyboard.press('Enter')
  await expect(quick(page)).toHaveAttribute('aria-invalid', 'true')
  await expect(quick(page)).toHaveAccessibleDescription('swich: did you mean switch?')
  await page.keyboard.press('Tab')
  await expect(quick(page)).not.toBeFocused()
  await page.keyboard.press('9')
  await expect(page.locator('.notice.bad')).toHaveCount(0)
})

test.describe('on a tablet', () => {
  test.use({ viewport: { width: 834, height: 1112 } })

  test('the drawing has the room, and the card opens over it', async ({ page }) => {
    await expect(cardOf(page)).toBeHidden()
    await drawn(page, 'silo, NAS, 9-11').click()
    await expect(cardOf(page).getByRole('button', { name: 'Name: silo, edit' })).toBeVisible()
    await page.getByRole('button', { name: 'Close the card' }).click()
    await expect(cardOf(page)).toBeHidden()
    await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()
  })
})

test.describe('on a wide screen', () => {
  test.use({ viewport: { width: 1920, height: 1080 } })

  test('the side stands beside front and rear', async ({ page }) => {
    await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()
    await expect(page.getByText('800 mm between the posts')).toBeVisible()
    await expect(page.getByRole('img', { name: 'anvil, 710 mm deep' })).toBeVisible()
  })
})
