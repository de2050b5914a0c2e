// What the tests share: a lab of their own, and a page that may not complain.
import { expect, test as base, type Locator, type Page, type Response } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { Binary } from './binary'

/** The rundown that docs and core's tests use as their example. */
export const quarry = readFileSync(join(import.meta.dirname, '..', 'core', 'rundown', 'testdata', 'good', 'quarry.rundown'), 'utf8')

interface Fixtures {
  /** Whether the lab is Quarry House rather than an empty one. */
  demo: boolean
  lab: Binary
}

export const test = base.extend<Fixtures>({
  demo: [false, { option: true }],
  lab: async ({ demo }, use) => {
    const lab = demo ? Binary.house() : new Binary()
    await lab.start()
    await use(lab)
    await lab.remove()
  },
  page: async ({ page, lab }, use) => {
    const complaints: string[] = []
    page.on('pageerror', (e) => complaints.push(e.message))
    page.on('console', (m) => {
      // A request that is refused, not answered or cut off with its server is shown by the browser too; everything else is ours.
      if (
        m.type() === 'error' &&
        !/responded with a status of 4|ERR_CONNECTION_REFUSED|ERR_EMPTY_RESPONSE|ERR_INCOMPLETE_CHUNKED_ENCODING/.test(m.text())
      )
        complaints.push(m.text())
    })
    // A document is loaded a moment before the page in it is there to take a key.
    for (const open of ['goto', 'reload'] as const) {
      const load = page[open].bind(page) as (...args: unknown[]) => Promise<Response | null>
      page[open] = async (...args: unknown[]) => {
        const answer = await load(...args)
        await page.getByRole('heading', { level: 1 }).first().waitFor({ state: 'attached' })
        return answer
      }
    }
    await page.goto(lab.url)
    await use(page)
    expect(complaints, 'the browser complains about nothing').toEqual([])
  },
})

export { expect }

/** A device on the elevation, by what is said of it: "anvil, server, 12-13". */
export const drawn = (page: Page, what: string): Locator => page.getByRole('img', { name: what, exact: true })

/** Puts the cursor behind what is looked for in the text. */
export async function lookFor(page: Page, what: string) {
  await page.keyboard.press('Control+f')
  const field = page.locator('.cm-search input[name=search]')
  await expect(field).toBeFocused()
  await field.pressSequentially(what)
  await page.keyboard.press('Enter')
  await expect(page.locator('.cm-searchMatch-selected')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.locator('.cm-search')).toBeHidden()
  await page.keyboard.press('ArrowRight')
}

/** The card of what is picked; on a phone it is over everything, and a dialog. */
export const cardOf = (page: Page): Locator =>
  page.getByRole('complementary', { name: 'Card' }).or(page.getByRole('dialog', { name: 'Card' }))

/** A device on the staff. */
export const onStaff = (page: Page, name: string): Locator =>
  page
    .getByRole('navigation', { name: 'Staff' })
    .locator('[data-staff]')
    .filter({ has: page.getByText(name, { exact: true }) })

export const quick = (page: Page): Locator => page.getByRole('combobox', { name: 'Quick line' })

/** Types a line into the quick line and waits until it is done. */
export async function type(page: Page, line: string): Promise<void> {
  await quick(page).fill(line)
  await quick(page).press('Enter')
  await expect(quick(page)).toHaveValue('')
}

/** Changes one fact on the card. */
export async function setFact(page: Page, label: string, text: string, on: Page | Locator = page): Promise<void> {
  await on.getByRole('button', { name: new RegExp(`^${label}: `) }).click()
  await on.getByRole('textbox', { name: label, exact: true }).fill(text)
  await page.keyboard.press('Enter')
}

/** Drags the middle of one thing to a point. */
export async function drag(page: Page, from: Locator, to: { x: number; y: number }, drop = true, onUnits = true): Promise<void> {
  const box = (await from.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x, to.y, { steps: 12 })
  if (onUnits) await expect(page.locator('[data-target]')).toBeVisible()
  if (drop) await page.mouse.up()
}

/** The middle of units on the front, taken from two things that are drawn. */
export async function unitPoint(page: Page, upper: string, lower: string, fraction: number): Promise<{ x: number; y: number }> {
  const a = (await drawn(page, upper).boundingBox())!
  const b = (await drawn(page, lower).boundingBox())!
  return { x: a.x + a.width / 2, y: a.y + a.height + (b.y - a.y - a.height) * fraction }
}

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** Waits until nothing moves or fades any more. */
export async function settled(page: Page) {
  await page.evaluate(() => {
    const ends = (a: Animation) => a.effect?.getComputedTiming().iterations !== Infinity
    return Promise.allSettled(
      document
        .getAnimations()
        .filter(ends)
        .map((a) => a.finished),
    ).then(() => true)
  })
}

/**
 * What axe finds serious; in the dark just the colours are others. It runs in the page with all its rules and answers what is violated:
 * what passes, with its HTML, would take longer to send than to find.
 */
export async function serious(page: Page, colours = false) {
  await settled(page)
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axeSource)
  return page.evaluate(
    async (only) => {
      const { axe } = window as unknown as { axe: typeof import('axe-core') }
      const { violations } = await axe.run(document, {
        resultTypes: ['violations'],
        preload: false,
        ...(only.length ? { runOnly: only } : {}),
      })
      return violations
        .filter((v) => v.impact === 'serious' || v.impact === 'critical')
        .map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)
    },
    colours ? ['color-contrast'] : [],
  )
}
