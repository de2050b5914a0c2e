import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, onStaff, quick, test } from '../fixtures'

test.use({ demo: true })

/** In the dark just the colours are others. */
async function serious(page: Page, colours = false) {
  const axe = new AxeBuilder({ page })
  const { violations } = await (colours ? axe.withRules(['color-contrast']) : axe).analyze()
  return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing serious, ${colorScheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme })
    await onStaff(page, 'ember').click()
    expect(await serious(page, colorScheme === 'dark'), 'Rack sheet').toEqual([])
    await quick(page).fill('7 s')
    await expect(page.getByRole('option').first()).toBeVisible()
    expect(await serious(page, colorScheme === 'dark'), 'quick line').toEqual([])
    await quick(page).fill('')
    await page.getByRole('button', { name: /^Study/ }).click()
    expect(await serious(page, colorScheme === 'dark'), 'place').toEqual([])
    await page.getByRole('link', { name: 'Gear' }).click()
    await expect(page.getByRole('gridcell', { name: 'anvil', exact: true })).toBeVisible()
    expect(await serious(page, colorScheme === 'dark'), 'gear').toEqual([])
    await page.getByRole('link', { name: 'Drafts' }).click()
    await expect(page.getByRole('complementary', { name: 'Steps of the draft' })).toContainText('In sum')
    expect(await serious(page, colorScheme === 'dark'), 'drafts').toEqual([])
    await page.getByRole('link', { name: 'Findings' }).click()
    await page.getByRole('button', { name: 'Accept…' }).first().click()
    expect(await serious(page, colorScheme === 'dark'), 'findings').toEqual([])
    await page.getByRole('link', { name: 'Logbook' }).click()
    await expect(page.locator('[data-entry]').first()).toBeVisible()
    expect(await serious(page, colorScheme === 'dark'), 'logbook').toEqual([])
    await page.getByRole('button', { name: 'Two days' }).click()
    await expect(page.locator('[data-edits]')).toContainText('old core')
    expect(await serious(page, colorScheme === 'dark'), 'two days').toEqual([])
    await page.keyboard.press('/')
    await page.keyboard.type('pantry')
    await expect(page.getByRole('option').first()).toBeVisible()
    expect(await serious(page, colorScheme === 'dark'), 'find').toEqual([])
    await page.keyboard.press('Escape')
    for (const box of ['Files in and out', 'The door']) {
      await page.getByRole('button', { name: /^As built: drafts/ }).click()
      await page.getByText(box, { exact: true }).click()
      await expect(page.getByRole('dialog')).toBeVisible()
      expect(await serious(page, colorScheme === 'dark'), box).toEqual([])
      await page.keyboard.press('Escape')
    }
    await page.getByRole('link', { name: /Rundown/ }).click()
    await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('anvil')
    expect(await serious(page, colorScheme === 'dark'), 'rundown page').toEqual([])
  })
}

test('axe finds nothing serious on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  expect(await serious(page), 'staff').toEqual([])
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  expect(await serious(page), 'card').toEqual([])
})
