// The pictures in docs/screenshots, from the demo lab.
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { cardOf, expect, lookFor, onStaff, test } from '../fixtures'

test.use({ demo: true })

async function shoot(page: Page, name: string) {
  await page.evaluate(() => document.fonts.ready)
  await page.mouse.move(0, 0)
  await page.screenshot({
    path: join(import.meta.dirname, '..', '..', 'docs', 'screenshots', `${name}.png`),
    animations: 'disabled',
    caret: 'hide',
  })
}

test('Rack sheet', async ({ page }) => {
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Depth: 710 mm, edit' })).toBeVisible()
  await shoot(page, 'rack-light')
})

test('services', async ({ page }) => {
  await page.getByRole('link', { name: 'Services' }).click()
  await page.getByRole('button', { name: /^choir, VM/ }).click()
  await expect(cardOf(page)).toContainText('W, by its memory')
  await shoot(page, 'services-towers')
  await page.getByRole('link', { name: 'Ways there' }).click()
  await expect(page.getByText('A rule lets guests reach nothing of servers.')).toBeVisible()
  await shoot(page, 'services-there')
  await page.getByRole('link', { name: 'If it goes' }).click()
  await page.getByRole('region', { name: 'Losses' }).getByRole('button', { name: 'silo', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Without silo' })).toContainText('film shelf runs on silo')
  await shoot(page, 'services-gone')
})

test('storage', async ({ page }) => {
  await page.getByRole('link', { name: 'Storage' }).click()
  await page.getByRole('button', { name: 'Bay 3: hold, 12 TB' }).click()
  await expect(cardOf(page)).toContainText('any one drive may fail')
  await shoot(page, 'storage-pools')
  await page.getByRole('link', { name: 'Copies' }).click()
  await expect(page.getByRole('row', { name: /^letters/ })).toContainText('all of it')
  await shoot(page, 'storage-copies')
})

test('power', async ({ page }) => {
  await page.getByRole('link', { name: 'Power' }).click()
  await page.locator('[data-box][aria-label^="keep, UPS"]').click()
  await expect(cardOf(page)).toContainText('only filters')
  await shoot(page, 'power-feeds')
  await page.getByRole('link', { name: 'On battery' }).click()
  await expect(page.getByRole('region', { name: 'keep' })).toContainText('13 min')
  await shoot(page, 'power-battery')
})

test('cabling', async ({ page }) => {
  await page.getByRole('link', { name: 'Cabling' }).click()
  await page.getByRole('button', { name: /^core 3, PP1 3, Loft plate 1/ }).click()
  await expect(cardOf(page)).toContainText('loft ap goes dark')
  await shoot(page, 'cabling')
})

test('networks', async ({ page }) => {
  await page.getByRole('link', { name: 'Networks' }).click()
  await page.getByRole('button', { name: '40 eyes 2 pieces' }).click()
  await expect(page.locator('[data-box]').filter({ hasText: 'cut off' })).toHaveCount(2)
  await expect(cardOf(page)).toContainText('Tag 40 on core/s2')
  await shoot(page, 'network-map')
  await page.getByRole('link', { name: 'VLAN grid' }).click()
  await page.getByRole('gridcell', { name: /^core\/7, VLAN 20/ }).focus()
  await shoot(page, 'vlan-grid')
})

test('addresses and who reaches whom', async ({ page }) => {
  await page.getByRole('link', { name: 'Networks' }).click()
  await page.getByRole('link', { name: 'Addresses', exact: true }).click()
  await page.getByRole('button', { name: /^10\.20\.0\.0\/24 / }).click()
  await page.getByRole('gridcell', { name: '10.20.0.53: finch and thrush, twice' }).click()
  await expect(page.getByRole('region', { name: 'Subnet 10.20.0.0/24' }).getByText('Give thrush 10.20.0.2')).toBeVisible()
  await shoot(page, 'network-addresses')
})

test('rundown page', async ({ page }) => {
  await page.getByRole('link', { name: /Rundown/ }).click()
  await page.getByRole('textbox', { name: 'Rundown' }).click()
  await lookFor(page, '22      brush panel')
  await page.keyboard.insertText('\n20      server "osprey": 1U\n19      swich "attic"')
  await expect(page.locator('.cm-lintRange-error')).toHaveText('swich')
  await shoot(page, 'rundown')
})

const sheets: [name: string, ready: (page: Page) => Promise<void>][] = [
  [
    'gear',
    async (page) => {
      await page.getByRole('searchbox', { name: 'Filter' }).fill('pantry')
      await page.getByRole('gridcell', { name: 'anvil', exact: true }).click()
    },
  ],
  ['drafts', (page) => expect(page.getByRole('complementary', { name: 'Steps of the draft' })).toContainText('Total')],
  ['findings', (page) => expect(page.getByRole('region', { name: 'accepted' })).toBeVisible()],
]
for (const [name, ready] of sheets) {
  test(`${name} sheet`, async ({ page }) => {
    await page.getByRole('link', { name: new RegExp(name, 'i') }).click()
    await ready(page)
    await shoot(page, name)
  })
}

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('staff and card', async ({ page }) => {
    await shoot(page, 'phone-staff')
    await onStaff(page, 'anvil').tap()
    await page.getByRole('button', { name: 'Take it out' }).tap()
    await page.getByRole('checkbox').first().check()
    await shoot(page, 'phone-pull')
    await page.getByRole('button', { name: /: all sheets$/ }).tap()
    await page.getByRole('navigation', { name: 'All sheets' }).getByRole('link', { name: 'Rack' }).tap()
    await onStaff(page, 'silo').tap()
    await page.getByRole('button', { name: '2 gaps ›' }).tap()
    await page.getByRole('textbox', { name: /^How deep is it/ }).fill('700')
    await expect(page.getByText('25 mm to spare.')).toBeVisible()
    await shoot(page, 'phone-walk')
  })
})
