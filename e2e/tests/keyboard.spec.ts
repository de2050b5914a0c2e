import { drawn, expect, onStaff, quick, test } from '../fixtures'

test('the keyboard alone builds a rack, edits it and undoes it', async ({ page }) => {
  const keys = page.keyboard
  await page.getByRole('heading', { name: 'Nothing documented yet' }).waitFor()
  const line = async (text: string) => {
    await keys.press('.')
    await expect(quick(page)).toBeFocused()
    await keys.type(text)
    await keys.press('Enter')
    await expect(quick(page)).toHaveValue('')
    await keys.press('Escape')
  }
  await line('rack "Cupboard": 9U, 19in')
  await line('9 switch "core"')
  await line('7 shelf: sbc "finch", hub "bridge"')
  await line('4-5 server anvil, spare')
  await expect(drawn(page, 'anvil, server, 4-5')).toBeVisible()
  await expect(drawn(page, 'finch, single-board computer')).toBeVisible()

  // Along the staff to anvil, and up: past the shelf, to where it fits.
  await expect(onStaff(page, 'anvil')).toHaveAttribute('aria-current', 'true')
  await keys.press('ArrowUp')
  await expect(onStaff(page, 'bridge')).toHaveAttribute('aria-current', 'true')
  await keys.press('ArrowDown')
  await keys.press('Shift+ArrowUp')
  await expect(drawn(page, 'anvil, server, 5-6')).toBeVisible()
  await keys.press('Shift+ArrowUp')
  await expect(page.getByRole('status')).toHaveText('There is no room further up for anvil.')
  await keys.press('Shift+ArrowRight')
  await expect(page.getByRole('button', { name: 'Where: Cupboard 5-6 rear, edit' })).toBeVisible()

  // Into the card, and from fact to fact to the width.
  await keys.press('Enter')
  await expect(page.getByRole('button', { name: 'Name: anvil, edit' })).toBeFocused()
  const unknownWidth = page.getByRole('button', { name: 'Width: unknown, edit' })
  await unknownWidth.waitFor()
  for (let i = 0; i < 40 && !(await unknownWidth.evaluate((e) => e === document.activeElement)); i++) await keys.press('Tab')
  await expect(unknownWidth).toBeFocused()
  await keys.press('Enter')
  await expect(page.getByRole('textbox', { name: 'Width' })).toBeFocused()
  await keys.type('17.5in')
  await keys.press('Enter')
  const width = page.getByRole('button', { name: 'Width: 444.5 mm, edit' })
  await expect(width).toBeFocused()

  await keys.press('Delete')
  await expect(onStaff(page, 'anvil')).toHaveCount(0)
  await keys.press('Control+z')
  await expect(onStaff(page, 'anvil')).toBeVisible()
  await keys.press('Control+z')
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Width: unknown, edit' })).toBeVisible()
  await keys.press('Control+Shift+z')
  await expect(width).toBeVisible()

  await keys.press('?')
  await expect(page.getByRole('dialog')).toContainText('to the quick line')
  await keys.press('Escape')
  await keys.press('0')
  await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('rack "Cupboard": 9U, 19in')
})
