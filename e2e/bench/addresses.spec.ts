// Figures of a subnet's ruler: a /16 with 5,000 addresses in it from the click to what is
// drawn, and the step into a part of it. Prints, checks no times.
import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

const lab = new Binary()
test.beforeAll(async () => {
  test.setTimeout(300_000)
  const lines = ['subnet 10.20.0.0/16', 'subnet 10.30.0.0/24: gateway .1']
  for (let i = 0; i < 5000; i++) lines.push(`?  server "box ${i}": address 10.20.${i % 250}.${1 + Math.floor(i / 250)}`)
  const file = join(lab.data, 'lab.rundown')
  writeFileSync(file, lines.join('\n'))
  execFileSync(levelstaff, ['load', file, '--data', lab.data, '--yes'], { stdio: 'ignore' })
  await lab.start()
})
test.afterAll(() => lab.remove())

/** Milliseconds from a click until the frame after the ruler of that name is drawn. */
const drawn = (page: Page, click: string, ruler: string) =>
  page.evaluate(
    ([click, ruler]) =>
      new Promise<number>((done) => {
        const from = performance.now()
        document.querySelector<HTMLElement>(click!)?.dispatchEvent(new MouseEvent('click', { bubbles: true }))
        const look = () =>
          document.querySelector(`[aria-label="Ruler of ${ruler}"] [data-at="0"]`)
            ? requestAnimationFrame(() => done(performance.now() - from))
            : requestAnimationFrame(look)
        look()
      }),
    [click, ruler],
  )

test('a /16 as a ruler', async ({ page }) => {
  await page.goto(`${lab.url}/networks/addresses`)
  await expect(page.locator('[aria-label="Ruler of 10.20.0.0/16"]')).toBeVisible()
  const wide: number[] = []
  for (let i = 0; i < 8; i++) {
    await drawn(page, '.subnets li:nth-child(2) button', '10.30.0.0/24')
    wide.push(await drawn(page, '.subnets li:nth-child(1) button', '10.20.0.0/16'))
  }
  wide.sort((a, b) => a - b)
  console.log(`a /16 with 5,000 addresses, from the click to what is drawn: ${wide[4]?.toFixed(0)} to ${wide.at(-1)?.toFixed(0)} ms`)
  const within = await drawn(page, '[data-at="7"]', '10.20.7.0/24')
  console.log(`the step into a /24 of it: ${within.toFixed(0)} ms`)
})
