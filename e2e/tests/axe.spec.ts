import type { Page } from '@playwright/test'
import { expect, onStaff, quick, serious, test } from '../fixtures'

test.use({ demo: true })

const menu = async (page: Page, item: string) => {
  await page.getByRole('button', { name: /^As built: drafts/ }).click()
  await page.getByText(item, { exact: true }).click()
  await expect(page.getByRole('dialog')).toBeVisible()
}

const cabling = async (page: Page, view: string) => {
  await page.getByRole('link', { name: 'Cabling' }).click()
  await page.getByRole('link', { name: view, exact: true }).click()
}

/** Each view, and how one gets there. */
const views: Record<string, (page: Page) => Promise<unknown>> = {
  'the Rack sheet': (page) => onStaff(page, 'ember').click(),
  'the quick line': async (page) => {
    await quick(page).fill('7 s')
    await expect(page.getByRole('listbox').getByRole('option').first()).toBeVisible()
  },
  'a place': (page) => page.getByRole('button', { name: /^Study/ }).click(),
  'the Gear sheet': async (page) => {
    await page.getByRole('link', { name: 'Gear' }).click()
    await expect(page.getByRole('gridcell', { name: 'anvil', exact: true })).toBeVisible()
  },
  'the Cabling sheet': async (page) => {
    await page.getByRole('link', { name: 'Cabling' }).click()
    await page.locator('[data-jack="core/22"]').click()
    await page.getByRole('button', { name: 'Connect a cable' }).click()
    await expect(page.locator('[data-jack="core/23"]')).toHaveClass(/may/)
  },
  'all faces': (page) => cabling(page, 'All faces'),
  'the leads': (page) => cabling(page, 'Leads'),
  'the runs': (page) => cabling(page, 'Runs'),
  'the ports': (page) => cabling(page, 'Ports left'),
  'the labels': (page) => cabling(page, 'Labels'),
  'a pull sheet': async (page) => {
    await onStaff(page, 'anvil').click()
    await page.getByRole('button', { name: 'Take it out' }).click()
    await expect(page.getByRole('heading', { name: 'Take out anvil' })).toBeVisible()
  },
  'the money': async (page) => {
    await page.getByRole('link', { name: 'Gear' }).click()
    await page.getByRole('link', { name: 'Money and age' }).click()
    await expect(page.getByRole('img', { name: 'Spent by year' })).toBeVisible()
  },
  'the spec sheets': async (page) => {
    await page.getByRole('link', { name: 'Gear' }).click()
    await page.getByRole('link', { name: 'Spec sheets' }).click()
    await page.getByRole('button', { name: /^Scar N12/ }).click()
    await expect(page.getByRole('img', { name: 'Scar N12, rear' })).toBeVisible()
  },
  'a photo': async (page) => {
    await onStaff(page, 'anvil').click()
    await page.getByRole('button', { name: /^Photo 1/ }).click()
    await expect(page.getByRole('dialog', { name: 'A photo of anvil' })).toContainText('1 of 2')
  },
  'a file that is mapped': async (page) => {
    await menu(page, 'Import and export')
    await page.getByLabel('File to load').setInputFiles({
      name: 'list.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('Hostname,Weight (lb),Colour\nanvil,50,red\nlark,2,blue\n'),
    })
    await expect(page.getByRole('region', { name: 'What comes of each line' })).toContainText('lark')
  },
  'a part': async (page) => {
    await onStaff(page, 'anvil').click()
    await page.getByRole('button', { name: /^Bay 1: vault 1/ }).click()
    await expect(page.getByRole('dialog')).toContainText('anvil, bay 1')
  },
  'the fit': async (page) => {
    await page.getByRole('button', { name: 'Does it fit?' }).click()
    await expect(page.getByRole('list', { name: 'Racks' })).toContainText('Pantry')
  },
  'the side view': async (page) => {
    await page.getByRole('link', { name: 'Side', exact: true }).click()
    await expect(page.getByRole('group', { name: 'Pantry, from the side' })).toBeVisible()
  },
  'the walk': async (page) => {
    await page.getByRole('link', { name: 'Walk through the gaps' }).click()
    await expect(page.getByRole('textbox')).toBeFocused()
  },
  'the Drafts sheet': async (page) => {
    await page.getByRole('link', { name: 'Drafts' }).click()
    await expect(page.getByRole('complementary', { name: 'Steps of the draft' })).toContainText('Total')
  },
  'the Findings sheet': async (page) => {
    await page.getByRole('link', { name: 'Findings' }).click()
    await page.getByRole('button', { name: 'Accept…' }).first().click()
  },
  'the map of the network': async (page) => {
    await page.keyboard.press('4')
    await page.getByRole('button', { name: '40 eyes 2 pieces' }).click()
    await expect(page.locator('[data-box]').filter({ hasText: 'cut off' })).toHaveCount(2)
  },
  'the VLAN grid': async (page) => {
    await page.keyboard.press('4')
    await page.getByRole('link', { name: 'VLAN grid' }).click()
    await expect(page.getByRole('grid')).toContainText('loft switch/3 says')
  },
  'the network as a list': async (page) => {
    await page.keyboard.press('4')
    await page.getByRole('button', { name: 'List' }).click()
    await expect(page.getByRole('table', { name: 'Core' })).toContainText('gate')
  },
  'what feeds what': async (page) => {
    await page.keyboard.press('7')
    await page.locator('[data-box][aria-label^="keep, UPS"]').click()
  },
  'what is lost': async (page) => {
    await page.keyboard.press('7')
    await page.getByRole('link', { name: 'If lost' }).click()
    await expect(page.getByRole('row').nth(1)).toBeVisible()
  },
  'what holds when the mains fail': async (page) => {
    await page.keyboard.press('7')
    await page.getByRole('link', { name: 'On battery' }).click()
    await expect(page.getByRole('region', { name: 'keep' })).toContainText('13 min')
  },
  'what power costs': async (page) => {
    await page.keyboard.press('7')
    await page.getByRole('link', { name: 'What it costs' }).click()
    await expect(page.getByRole('row', { name: /^anvil/ })).toBeVisible()
  },
  'how warm and loud it is': async (page) => {
    await page.keyboard.press('7')
    await page.getByRole('link', { name: 'Warmth and noise' }).click()
    await expect(page.getByRole('row', { name: /^Pantry room/ })).toBeVisible()
  },
  'power over the network': async (page) => {
    await page.keyboard.press('7')
    await page.getByRole('link', { name: 'PoE' }).click()
    await expect(page.getByRole('region', { name: 'core' })).toBeVisible()
  },
  'the Logbook': async (page) => {
    await page.getByRole('link', { name: 'Logbook' }).click()
    await expect(page.locator('[data-entry]').first()).toBeVisible()
  },
  'two days': async (page) => {
    await page.getByRole('link', { name: 'Logbook' }).click()
    await page.getByRole('link', { name: 'Two days' }).click()
    await expect(page.locator('[data-edits]')).toContainText('old core')
  },
  find: async (page) => {
    await page.keyboard.press('/')
    await page.keyboard.type('pantry')
    await expect(page.getByRole('listbox').getByRole('option').first()).toBeVisible()
  },
  'the files': (page) => menu(page, 'Import and export'),
  access: (page) => menu(page, 'Access'),
  'the rundown page': async (page) => {
    await page.getByRole('link', { name: /Rundown/ }).click()
    await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('Quarry House')
  },
}

for (const [name, go] of Object.entries(views)) {
  test(`axe finds nothing serious in ${name}, light and dark`, async ({ page }) => {
    await go(page)
    expect(await serious(page), 'light').toEqual([])
    await page.emulateMedia({ colorScheme: 'dark' })
    await expect(page.locator('.v-theme--light')).toHaveCount(0)
    expect(await serious(page, true), 'dark').toEqual([])
  })
}

test('axe finds nothing serious on a phone', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  expect(await serious(page), 'staff').toEqual([])
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  expect(await serious(page), 'card').toEqual([])
})
