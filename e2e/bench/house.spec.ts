// Figures of a full house: eight racks of 42U, 300 devices, shelves with fifteen
// things on them, 400 cables. What one waits for when a sheet is opened, and the
// longest that the page is busy meanwhile. Prints, checks no times.
import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

/** A made-up house as a rundown. */
function text(): string {
  const lines: string[] = []
  for (let r = 1; r <= 8; r++) {
    lines.push(`rack "Bay ${r}": 42U, 19in, 900mm deep, holds 500kg`)
    lines.push(`42 patch panel "panel ${r}": 24 ports rj45 1G`, `41 switch "switch ${r}": 24 ports rj45 1G, 4 ports sfp+ 10G, 22W`)
    for (let i = 0; i < 16; i++)
      lines.push(
        `${39 - 2 * i} server "server ${r}-${i}": 1U, 650mm deep, 440mm wide${i % 5 ? `, ${9 + i}kg` : ''}, 2 ports rj45 1G, 8 bays 2.5in, 2x 1TB ssd, 64GB of 256GB, ${60 + i}W, paid ${100 + i} used 20${10 + i}`,
      )
    lines.push(`3-6 shelf "boards ${r}":`)
    for (let i = 1; i <= 15; i++) lines.push(`    single-board computer "node ${r}-${i}": 1 ports rj45 1G`)
    lines.push(`1 rear pdu "strip ${r}": 20 outlets c13`, `2 ups "ups ${r}": 1500VA, 4 outlets c13`)
  }
  for (let r = 1; r <= 8; r++) {
    lines.push(`switch ${r}/1-24 - panel ${r}/1-24 0.25m yellow`)
    for (let i = 0; i < 16; i++) lines.push(`strip ${r}/${i + 1} - server ${r}-${i} 2m`)
    for (let i = 0; i < 4; i++) lines.push(`panel ${r}/${i + 1} = panel ${(r % 8) + 1}/${i + 13} 12m cat6`)
  }
  return lines.join('\n')
}

const lab = new Binary()
test.beforeAll(async () => {
  const file = join(lab.data, 'house.rundown')
  writeFileSync(file, text())
  execFileSync(levelstaff, ['load', file, '--data', lab.data, '--yes'], { stdio: 'ignore' })
  await lab.start()
})
test.afterAll(() => lab.remove())

/** Milliseconds from doing something until the frame after what is waited for is there, and the longest task meanwhile. */
const shows = (page: Page, act: string, what: string) =>
  page.evaluate(
    ([act, what]) =>
      new Promise<{ after: number; task: number }>((done) => {
        let task = 0
        const busy = new PerformanceObserver((list) => {
          for (const e of list.getEntries()) task = Math.max(task, e.duration)
        })
        busy.observe({ type: 'longtask' })
        const before = document.querySelector(what!)?.textContent
        const from = performance.now()
        const look = () => {
          const is = document.querySelector(what!)
          if (!is || (act!.startsWith('filter=') && is.textContent === before)) return requestAnimationFrame(look)
          const after = performance.now() - from
          setTimeout(() => {
            busy.disconnect()
            done({ after, task })
          }, 300)
        }
        const [how, where] = act!.split('=', 2)
        if (how === 'go')
          (document.querySelector<HTMLAnchorElement>(`a[href="${where}"]`) ??
            document.querySelector<HTMLAnchorElement>(`a[href^="${where}"]`))!.click()
        else {
          const field = document.querySelector<HTMLInputElement>('input[aria-label=Filter]')!
          field.value = act!.slice('filter='.length)
          field.dispatchEvent(new Event('input', { bubbles: true }))
        }
        requestAnimationFrame(() => requestAnimationFrame(look))
      }),
    [act, what],
  )

const views = [
  ['Gear', 'go=/gear', '[role=grid][aria-label=Gear] [role=row]:nth-child(5)'],
  ['Gear, filtered', 'filter=kind:server weight>10', '[role=grid][aria-label=Gear]'],
  ['Money', 'go=/gear/money', 'svg[aria-label="Spent by year"]'],
  ['Rack', 'go=/rack', '[data-device]'],
  ['Side view', 'go=/rack/side', 'svg.drawing'],
  ['All racks', 'go=/rack/all', '.row svg:nth-child(8)'],
  ['Cabling', 'go=/cabling', '[data-jack]'],
  ['Leads', 'go=/cabling/leads', '[role=grid][aria-label=Leads] [role=row]:nth-child(5)'],
  ['Leads, filtered', 'filter=yellow', '[role=grid][aria-label=Leads]'],
  ['All faces', 'go=/cabling/faces', '[data-jack]'],
  ['Ports left', 'go=/cabling/ports', 'table[aria-label]'],
  ['Labels', 'go=/cabling/labels', 'input[aria-label="Width in mm"]'],
  ['Drafts', 'go=/drafts', 'section.first'],
  ['Findings', 'go=/findings', 'section[aria-label]'],
  ['Logbook', 'go=/logbook', '[data-entry]'],
  ['Rundown', 'go=/rundown', '.cm-line:nth-child(5)'],
] as const

test('every sheet of a full house', async ({ page }) => {
  test.setTimeout(120_000)
  const wrong: string[] = []
  page.on('console', (m) => m.type() === 'error' && wrong.push(m.text()))
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${lab.url}/rack`)
  await page.locator('[data-device]').first().waitFor()
  await page.waitForTimeout(500)
  for (const round of ['first', 'again']) {
    for (const [name, act, what] of views) {
      const { after, task } = await shows(page, act, what)
      console.log(`${name}, ${round}: ${after.toFixed(0)} ms, longest task ${task ? `${task.toFixed(0)} ms` : 'under 50 ms'}`)
    }
  }
  expect(wrong, 'the browser complains about nothing').toEqual([])
})
