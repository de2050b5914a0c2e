// Networks: VLANs painted over the wiring, islands joined, the map by keyboard.
import { readFileSync } from 'node:fs'
import { cardOf, expect, onStaff, test, type } from '../fixtures'
import type { Page } from '@playwright/test'

const three = `rack "R": 12U
12 switch "core": 8 ports rj45 1G
11 switch "loft": 8 ports rj45 1G
10 switch "hall": 8 ports rj45 1G
9 server "anvil": 2 ports rj45 1G front
8 server "thrush": 2 ports rj45 1G front
vlan 10 "house"
vlan 20 "servers", green
core/1 - loft/1
loft/2 - hall/1
core/5 - anvil/1
hall/5 - thrush/1
core/5 untagged 20
hall/5 untagged 20
loft: managed, untagged 10
`
const cell = (page: Page, port: string, vlan: number) => page.getByRole('gridcell', { name: new RegExp(`^${port}, VLAN ${vlan}:`) })
const box = (page: Page, title: string) => page.locator('svg.drawing').getByRole('button', { name: new RegExp(`^${title}, `) })

test.describe('three switches', () => {
  test.beforeEach(async ({ page, lab }) => {
    expect((await lab.post('/api/v1/rundown', { base_revision: 0, text: three })).ok).toBe(true)
    await page.reload()
    await page.keyboard.press('4')
    await expect(page.getByRole('button', { name: '20 servers 2 pieces' })).toBeVisible()
  })

  test('a VLAN is painted across three switches, and its island joins', async ({ page, lab }) => {
    const levels = page.getByRole('region', { name: 'Levels' })
    await expect(levels.getByRole('img', { name: /^VLANs in one piece: 0 of 1/ })).toBeVisible()
    await page.getByRole('link', { name: 'VLAN grid' }).click()
    await expect(cell(page, 'core/5', 20)).toHaveText('U')

    // By pointer, over two ports at once; then by keys.
    await cell(page, 'loft/1', 20).hover()
    await page.mouse.down()
    await cell(page, 'loft/2', 20).hover()
    await page.mouse.up()
    await expect(cell(page, 'loft/1', 20)).toHaveText('T')
    await expect(cell(page, 'loft/2', 20)).toHaveText('T')
    await cell(page, 'core/1', 20).focus()
    await cell(page, 'core/1', 20).press('t')
    await expect(cell(page, 'core/1', 20)).toHaveText('T')
    await expect(levels.getByRole('img', { name: /^VLANs in one piece: 0 of 1/ })).toBeVisible()
    await cell(page, 'hall/1', 20).click()
    await expect(levels.getByRole('img', { name: /^VLANs in one piece: 1 of 1/ })).toBeVisible()

    const report = await lab.get<{ vlans: { pieces: { devices: string[] }[] }[] }>('/api/v1/reports/vlans')
    expect(report.vlans[1]!.pieces.map((p) => p.devices)).toEqual([['anvil', 'core', 'hall', 'loft', 'thrush']])
    await page.keyboard.press('Control+z')
    await expect(cell(page, 'hall/1', 20)).toHaveText('')
  })

  test('cells come from a spreadsheet; those of the wrong width are refused with their place', async ({ page }) => {
    await page.getByRole('link', { name: 'VLAN grid' }).click()
    const paste = async (text: string) => {
      await cell(page, 'core/1', 10).focus()
      await page.evaluate((data) => {
        const clipboardData = new DataTransfer()
        clipboardData.setData('text', data)
        document.activeElement?.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
      }, text)
    }
    await paste('U\tT\tT')
    await expect(page.getByText('line 1 has 3 cells, and there are 2 VLANs from 10 on')).toBeVisible()
    await paste('U\tT\n\tT')
    await expect(cell(page, 'core/2', 20)).toHaveText('T')
    await expect(cell(page, 'core/1', 10)).toHaveText('U')
  })

  test('the card of the VLAN says what would join it, and does', async ({ page }) => {
    await page.getByRole('button', { name: '20 servers 2 pieces' }).click()
    await expect(cardOf(page)).toContainText('2 pieces. The largest')
    await cardOf(page).getByRole('button', { name: 'Tag 20 on core/1, hall/1, loft/1 and loft/2' }).click()
    await expect(page.getByRole('button', { name: '20 servers', exact: true })).toBeVisible()
    await expect(cardOf(page)).toContainText('8 ports on 5 devices')
  })
})

test.describe('Quarry House', () => {
  test.use({ demo: true })

  test('a mismatch is fixed from its finding, and that undone', async ({ page }) => {
    await page.getByRole('link', { name: 'Findings' }).click()
    const mismatch = page.locator('li').filter({ hasText: 'Untagged frames are in VLAN 10 at core/9' })
    await mismatch.getByRole('button', { name: 'Carry 10 untagged on loft switch/3' }).click()
    await expect(mismatch).toHaveCount(0)
    await page.keyboard.press('Control+z')
    await expect(mismatch).toBeVisible()
  })

  test('the map is driven by keyboard, and what is picked is picked everywhere', async ({ page }) => {
    await page.keyboard.press('4')
    await box(page, 'core').focus()
    await page.keyboard.press('ArrowUp')
    await expect(box(page, 'gate')).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await expect(box(page, 'core')).toBeFocused()
    await page.keyboard.press('ArrowDown')
    await expect(box(page, 'core')).not.toBeFocused()
    await page.locator('[data-box]:focus').press('ArrowRight')
    await page.locator('[data-box]:focus').press('Enter')
    const name = await page.locator('[data-box]:focus').getAttribute('aria-label')
    const title = name!.split(',')[0]!
    await expect(cardOf(page)).toContainText(title)
    await page.keyboard.press('1')
    await expect(cardOf(page)).toContainText(title)
  })

  test('a VLAN lights its spread; a link shows its trail; leaves open; a place folds', async ({ page }) => {
    await page.keyboard.press('4')
    await page.getByRole('button', { name: '40 eyes 2 pieces' }).click()
    await expect(page.locator('[data-box]').filter({ hasText: 'cut off' })).toHaveCount(2)
    await expect(cardOf(page)).toContainText('cameras and their recorder')

    await page.locator('.run').filter({ hasText: 'core/s2 – dome switch/s1' }).locator('.reach').dispatchEvent('click')
    const link = page.getByRole('region', { name: 'Link' })
    await expect(link).toContainText('Carries 10 house untagged, 50 dome, 99 management.')
    await expect(link.getByRole('button', { name: /PP3 f1/ })).toBeVisible()
    await link.getByRole('button', { name: 'Close' }).click()

    await page.getByRole('button', { name: /^gathered: .*finch/ }).press('Enter')
    await expect(box(page, 'finch')).toBeVisible()
    await page.getByRole('button', { name: 'Fold ▾' }).click()
    await page.getByRole('checkbox', { name: 'Dome rack' }).check()
    await expect(page.locator('svg.drawing').getByRole('button', { name: /^Dome rack, folded/ })).toBeVisible()
  })

  test('the map as a list and as files', async ({ page }) => {
    await page.keyboard.press('4')
    await expect(box(page, 'core')).toBeVisible()
    await page.getByRole('button', { name: 'Export ▾' }).click()
    const [svg] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Drawing (SVG)', exact: true }).click(),
    ])
    const text = readFileSync(await svg.path(), 'utf8')
    expect(text).toContain('dome switch')
    expect(text).toContain('Quarry House · network')
    await page.getByRole('button', { name: 'Export ▾' }).click()
    const [png] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Picture (PNG)', exact: true }).click(),
    ])
    expect(
      readFileSync(await png.path())
        .subarray(1, 4)
        .toString(),
    ).toBe('PNG')
    await page.getByRole('button', { name: 'List' }).click()
    await expect(page.getByRole('table', { name: 'Access' })).toContainText('core/9')
    await expect(page.getByRole('row').filter({ hasText: 'core/9' }).first()).toContainText('rests')
  })

  test('the card of a device has its VLANs, and leads to the map', async ({ page }) => {
    await onStaff(page, 'anvil').click()
    await cardOf(page).getByRole('button', { name: '50 dome' }).click()
    await expect(page).toHaveURL(/\/networks/)
    await expect(page.getByRole('button', { name: '50 dome' }).first()).toHaveAttribute('aria-pressed', 'true')
  })

  test('a VLAN plan is looked at before it is taken', async ({ page }) => {
    await page.getByRole('button', { name: /^As built: drafts/ }).click()
    await page.getByText('Import and export').click()
    const plan = (rows: string) => ({
      name: 'vlan plan.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(`device,port,10 house,40 eyes\n${rows}`),
    })
    await page.getByLabel('File to load').setInputFiles(plan('core,s2,U,X\ncore,99,U,\n'))
    await expect(page.getByRole('region', { name: 'What comes of each line' })).toContainText('core has no port “99”')
    await page.getByLabel('File to load').setInputFiles(plan('core,s2,U,T\n'))
    await expect(page.getByRole('region', { name: 'What comes of each line' })).toContainText('tagged 40, 50, 99')
    await page.getByRole('button', { name: /^Load vlan plan.csv: 1 change/ }).click()
    await page.getByRole('link', { name: 'Networks' }).click()
    await expect(page.getByRole('button', { name: '40 eyes', exact: true })).toBeVisible()
  })

  test('a port that is said to be in two VLANs is refused on the quick line', async ({ page }) => {
    await page.keyboard.press('.')
    await page.keyboard.type('core/1 untagged 10,20')
    await expect(page.getByText('a port carries one VLAN untagged').first()).toBeVisible()
    await page.keyboard.press('Escape')
    await type(page, 'core/1 tagged 20 untagged 10')
    await page.getByRole('link', { name: 'Networks' }).click()
    await page.getByRole('link', { name: 'VLAN grid' }).click()
    await expect(cell(page, 'core/1', 20)).toHaveText('T')
  })
})
