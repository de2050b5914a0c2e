import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, onStaff, quick, test } from '../fixtures'

test.use({ demo: true })

async function serious(page: Page) {
  const { violations } = await new AxeBuilder({ page }).analyze()
  return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing serious, ${colorScheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme })
    await onStaff(page, 'ember').click()
    expect(await serious(page), 'Rack sheet').toEqual([])
    await quick(page).fill('7 s')
    await expect(page.getByRole('option').first()).toBeVisible()
    expect(await serious(page), 'quick line').toEqual([])
    await quick(page).fill('')
    await page.getByRole('button', { name: /^Study/ }).click()
    expect(await serious(page), 'place').toEqual([])
    await page.getByRole('link', { name: /Rundown/ }).click()
    await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('anvil')
    expect(await serious(page), 'rundown page').toEqual([])
  })
}

test('axe finds nothing serious on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  expect(await serious(page), 'staff').toEqual([])
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  expect(await serious(page), 'card').toEqual([])
})
