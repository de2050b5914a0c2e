// Figures of the cabling in a lab of 200 racks with 100,000 ports and 40,000
// cables. Prints, checks no times.
import { expect, test, type Page } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { Binary, levelstaff } from '../binary'

const racks = 200

/** In each rack four panels and four switches, patched to each other and, panel to panel, to the next rack, and servers. */
function text(): string {
  const lines: string[] = []
  for (let r = 1; r <= racks; r++) {
    lines.push(`rack "Row ${r}": 48U, 19in, 900mm deep`)
    for (let i = 0; i < 4; i++)
      lines.push(
        `${48 - 2 * i} patch panel "panel-${r}-${i}": 48 ports rj45 1G`,
        `${47 - 2 * i} switch "switch-${r}-${i}": 48 ports rj45 1G, 3 ports sfp+ 1G/10G`,
      )
    for (let i = 0; i < 25; i++) lines.push(`${40 - i} server "server-${r}-${i}": 3 ports rj45 1G`)
  }
  for (let r = 1; r <= racks; r++) {
    const next = (r % racks) + 1
    for (const i of [0, 1]) lines.push(`switch-${r}-${i}/1-48 - panel-${r}-${i}/1-48 0.25m yellow cat6`)
    lines.push(`panel-${r}-0/1-48 = panel-${next}-1/1-48 12m cat6`)
    for (let i = 0; i < 25; i++)
      lines.push(`switch-${r}-2/${i + 1} - server-${r}-${i}/1 1.5m blue cat6`, `switch-${r}-3/${i + 1} - server-${r}-${i}/2 2m blue cat6`)
    lines.push(`switch-${r}-2/40-45 - panel-${r}-2/1-6 0.5m cat6`)
  }
  return lines.join('\n')
}

const lab = new Binary()
test.beforeAll(async () => {
  test.setTimeout(300_000)
  const file = join(lab.data, 'wired.rundown')
  writeFileSync(file, text())
  const from = performance.now()
  execFileSync(levelstaff, ['load', file, '--data', lab.data, '--yes'], { stdio: 'ignore' })
  console.log(`a rundown that makes 40,000 cables, read, checked and stored: ${((performance.now() - from) / 1000).toFixed(1)} s`)
  await lab.start()
})
test.afterAll(() => lab.remove())

/** Milliseconds from the pointer coming to a port until the frame after the trail is lit. */
const lights = (page: Page, port: string, lit: string) =>
  page.evaluate(
    ([port, lit]) =>
      new Promise<number>((done) => {
        const at = document.querySelector(port!)
        if (!at) throw new Error(`no ${port}`)
        const from = performance.now()
        at.dispatchEvent(new PointerEvent('pointerenter'))
        const look = () => (document.querySelector(lit!) ? done(performance.now() - from) : requestAnimationFrame(look))
        requestAnimationFrame(look)
        setTimeout(() => at.dispatchEvent(new PointerEvent('pointerleave')), 100)
      }),
    [port, lit],
  )

const print = (what: string, times: number[]) =>
  console.log(`${what}: median ${times.sort((a, b) => a - b)[times.length >> 1]?.toFixed(1)} ms, longest ${times.at(-1)?.toFixed(1)} ms`)

test('a trail lights up', async ({ page }) => {
  test.setTimeout(300_000)
  await page.goto(`${lab.url}/`)
  await page.locator('[data-lead]').first().waitFor({ timeout: 60_000 })
  expect(await page.locator('[data-lead]').count()).toBeGreaterThan(100)
  const elevation: number[] = []
  for (let i = 1; i <= 20; i++) {
    elevation.push(await lights(page, `[data-port="switch-1-1/${i}"]`, '[data-lead].lit'))
    await expect(page.locator('[data-lead].lit')).toHaveCount(0)
  }
  print('on the elevation, from the pointer to the frame that shows it', elevation)
  await page.goto(`${lab.url}/cabling`)
  await page.locator('[data-jack="switch-1-0/1"]').waitFor({ timeout: 60_000 })
  const strips: number[] = []
  for (let i = 1; i <= 20; i++) {
    strips.push(await lights(page, `[data-jack="switch-1-0/${i}"]`, '[role=group][aria-label=Trails] .lit'))
    await expect(page.locator('[role=group][aria-label=Trails] .lit')).toHaveCount(0)
  }
  print('on the Cabling sheet, 48 trails below the face', strips)
})
