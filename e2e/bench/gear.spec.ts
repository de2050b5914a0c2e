// Figures of the Gear sheet with 5,040 things. Prints, checks no times; that
// no row is blank while one scrolls is checked.
import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

const racks = 120
const units = 42
const kinds = ['server', 'switch', 'nas', 'router', 'ups', 'patch panel', 'recorder']

/** A made-up lab as a rundown; every eleventh weight is unknown. */
function text(): string {
  const lines: string[] = []
  for (let r = 1; r <= racks; r++) {
    lines.push(`rack "Row ${r}": ${units}U, 19in, 900mm deep`)
    for (let u = units; u >= 1; u--) {
      const n = r * 100 + u
      lines.push(
        `${u} ${kinds[n % kinds.length]} "thing ${n}": ${300 + (n % 400)}mm deep, 440mm wide${n % 11 ? `, ${1 + (n % 30)}kg` : ''}, maker "Maker ${n % 12}", paid ${20 + (n % 900)} used 20${15 + (n % 11)}`,
      )
    }
  }
  return lines.join('\n')
}

const lab = new Binary()
test.beforeAll(async () => {
  const file = join(lab.data, 'large.rundown')
  writeFileSync(file, text())
  execFileSync(levelstaff, ['load', file, '--data', lab.data, '--yes'], { stdio: 'ignore' })
  await lab.start()
})
test.afterAll(() => lab.remove())

const grid = (page: Page) => page.getByRole('grid', { name: 'Gear' })

/** Milliseconds from doing something in the page until the frame after the table shows it. */
const shown = (page: Page, act: string) =>
  page.evaluate(
    (act) =>
      new Promise<number>((done) => {
        const table = document.querySelector('[role=grid][aria-label=Gear]')
        const rows = table?.querySelector('[role=rowgroup]')
        if (!table || !rows) throw new Error('no table')
        const from = performance.now()
        const seen = new MutationObserver(() => {
          seen.disconnect()
          requestAnimationFrame(() => setTimeout(() => done(performance.now() - from)))
        })
        seen.observe(rows, { childList: true, subtree: true, characterData: true })
        if (act.startsWith('sort:')) {
          const button = [...table.querySelectorAll<HTMLElement>('[role=columnheader] button')].find((b) =>
            b.textContent?.startsWith(act.slice(5)),
          )
          button?.click()
        } else {
          const field = document.querySelector<HTMLInputElement>('input[aria-label=Filter]')
          if (!field) throw new Error('no filter')
          field.value = act
          field.dispatchEvent(new Event('input', { bubbles: true }))
        }
      }),
    act,
  )

test('filter and sort of 5,040 things on screen', async ({ page }) => {
  await page.goto(`${lab.url}/gear`)
  await expect(page.getByText(`${racks * units} devices`)).toBeVisible()
  const times = async (acts: string[]) => {
    const list: number[] = []
    for (const act of acts) list.push(await shown(page, act))
    return list.map((t) => t.toFixed(0)).join(', ')
  }
  console.log(
    `filter until the frame after: ${await times(['kind:server', 'kind:server weight>10', 'kind:server weight>20', 'depth>500', 'row 12', ''])} ms`,
  )
  console.log(`sort until the frame after: ${await times(['sort:Weight', 'sort:Depth', 'sort:Name', 'sort:Kind'])} ms`)
})

test('scrolling through 5,040 things shows no blank rows', async ({ page }) => {
  await page.goto(`${lab.url}/gear`)
  await expect(grid(page).getByRole('row').nth(5)).toBeVisible()
  const seen = await page.evaluate(
    () =>
      new Promise<{ frames: number; blank: number; longest: number }>((done) => {
        const box = document.querySelector('[role=grid][aria-label=Gear]')
        if (!box) throw new Error('no table')
        let [frames, blank, longest, last] = [0, 0, 0, performance.now()]
        const tick = (now: number) => {
          longest = Math.max(longest, now - last)
          last = now
          const { left, top, bottom } = box.getBoundingClientRect()
          // A point of each third of the window has to be in a row.
          for (const part of [0.2, 0.5, 0.85])
            if (!document.elementFromPoint(left + 60, top + (bottom - top) * part)?.closest('[role=row]')) blank++
          box.scrollTop += 260 // a wheel that is turned fast
          if (++frames < 240) requestAnimationFrame(tick)
          else done({ frames, blank, longest })
        }
        requestAnimationFrame(tick)
      }),
  )
  console.log(`scrolling: ${seen.frames} frames, the longest ${seen.longest.toFixed(0)} ms, ${seen.blank} looks at a blank row`)
  expect(seen.blank).toBe(0)
})
