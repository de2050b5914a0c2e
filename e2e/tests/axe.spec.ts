import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, onStaff, quick, serious, test } from '../fixtures'

test.use({ demo: true })

const menu = async (page: Page, item: string) => {
  await page.getByRole('button', { name: /^As built: drafts/ }).click()
  await page.getByText(item, { exact: true }).click()
  await expect(page.getByRole('dialog')).toBeVisible()
}

/** What is drawn, once nothing is added to it any more for a moment. */
const drawnWhole = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const calm = 250
        let timer = setTimeout(done, calm)
        const watch = new MutationObserver(() => {
          clearTimeout(timer)
          timer = setTimeout(done, calm)
        })
        watch.observe(document.body, { childList: true, subtree: true, attributes: true })
        function done() {
          watch.disconnect()
          resolve()
        }
      }),
  )

/** The addresses that the page in front leads to on this server, without what they say of it. */
const linksOn = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLAnchorElement>('a[href^="/"]')]
      .filter((a) => !a.download && !a.pathname.startsWith('/api/'))
      .map((a) => a.pathname),
  )

/** Opens every view that a link leads to, from the Rack sheet on, and does something with each. */
async function everyView(page: Page, base: string, look: (path: string) => Promise<void>): Promise<string[]> {
  const seen: string[] = []
  const todo = ['/rack']
  for (let path = todo.shift(); path; path = todo.shift()) {
    if (seen.includes(path)) continue
    seen.push(path)
    await page.goto(base + path)
    await expect(page.getByRole('heading', { level: 1 })).toBeAttached()
    await drawnWhole(page)
    todo.push(...(await linksOn(page)))
    await look(path)
  }
  return seen
}

/** What no link leads to, and how one gets there. */
const views: Record<string, (page: Page) => Promise<unknown>> = {
  'the Rack sheet': (page) => onStaff(page, 'ember').click(),
  'the quick line': async (page) => {
    await quick(page).fill('7 s')
    await expect(page.getByRole('listbox').getByRole('option').first()).toBeVisible()
  },
  'a place': (page) => page.getByRole('button', { name: /^Study/ }).click(),
  'the Cabling sheet': async (page) => {
    await page.getByRole('link', { name: 'Cabling' }).click()
    await page.locator('[data-jack="core/22"]').click()
    await page.getByRole('button', { name: 'Connect a cable' }).click()
    await expect(page.locator('[data-jack="core/23"]')).toHaveClass(/may/)
  },
  'a pull sheet': async (page) => {
    await onStaff(page, 'anvil').click()
    await page.getByRole('button', { name: 'Take it out' }).click()
    await expect(page.getByRole('heading', { name: 'Take out anvil' })).toBeVisible()
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
  'the Findings sheet': async (page) => {
    await page.getByRole('link', { name: 'Findings' }).click()
    await page.getByRole('button', { name: 'Accept…' }).first().click()
  },
  'the map of the network': async (page) => {
    await page.keyboard.press('4')
    await page.getByRole('button', { name: '40 eyes 2 pieces' }).click()
    await expect(page.locator('[data-box]').filter({ hasText: 'cut off' })).toHaveCount(2)
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
  find: async (page) => {
    await page.keyboard.press('/')
    await page.keyboard.type('pantry')
    await expect(page.getByRole('listbox').getByRole('option').first()).toBeVisible()
  },
  'the files': (page) => menu(page, 'Import and export'),
  access: (page) => menu(page, 'Access'),
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

for (const [name, viewport] of [
  ['at the desk', { width: 1280, height: 800 }],
  ['on a phone', { width: 390, height: 844 }],
] as const)
  for (const scheme of ['light', 'dark'] as const)
    test(`axe finds nothing serious in any view that is linked, ${name}, ${scheme}`, async ({ page, lab }) => {
      test.setTimeout(300_000)
      await page.setViewportSize(viewport)
      await page.emulateMedia({ colorScheme: scheme })
      const found: Record<string, string[]> = {}
      const seen = await everyView(page, lab.url, async (path) => {
        const wrong = await serious(page, scheme === 'dark')
        if (wrong.length) found[path] = wrong
      })
      expect(found).toEqual({})
      for (const path of ['/gear', '/rundown', '/logbook']) expect(seen, 'the bar leads to each sheet').toContain(path)
      expect(seen.length).toBeGreaterThan(40)
    })

test('a card on a phone has nothing serious', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await onStaff(page, 'anvil').click()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  expect(await serious(page)).toEqual([])
})

test('axe in the page says what its builder says, and both see what is wrong', async ({ page }) => {
  await onStaff(page, 'anvil').click()
  await page.evaluate(() => {
    document.querySelector('main')!.insertAdjacentHTML('beforeend', '<button></button><img src="/x.png"><p class="faint">too faint</p>')
    document.querySelector<HTMLElement>('.faint')!.style.cssText = 'color: #ccc; background: #fff'
  })
  const here = await serious(page)
  const { violations } = await new AxeBuilder({ page }).analyze()
  const built = violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)
  expect(here).toEqual(built)
  expect(here.map((v) => v.split(':')[0]).sort()).toEqual(['button-name', 'color-contrast', 'image-alt'])
})
