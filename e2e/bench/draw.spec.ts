// Figures of what a person waits for in the browser. Prints, checks no times.
import { expect, test as base } from '@playwright/test'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { brotliCompressSync, gzipSync } from 'node:zlib'
import { Binary } from '../binary'
import { drag, drawn, test } from '../fixtures'

test.use({ demo: true })

base('script and style of the first load', async () => {
  const dist = join(import.meta.dirname, '..', '..', 'web', 'dist')
  const page = readFileSync(join(dist, 'index.html'), 'utf8')
  const first = readdirSync(join(dist, 'assets')).filter((f) => /\.(js|css)$/.test(f) && page.includes(f))
  expect(first.length).toBeGreaterThan(1)
  const sum = (size: (b: Buffer) => number) => first.reduce((n, f) => n + size(readFileSync(join(dist, 'assets', f))), 0)
  console.log(
    `first load: ${(sum((b) => gzipSync(b).length) / 1024).toFixed(0)} KB gzip, ${(sum((b) => brotliCompressSync(b).length) / 1024).toFixed(0)} KB brotli, ${first.length} files`,
  )
})

base('the Rack sheet after a cold start', async ({ browser }) => {
  const lab = new Binary()
  const times: number[] = []
  for (let i = 0; i < 5; i++) {
    await lab.start(true)
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } })
    const page = await context.newPage()
    await page.addInitScript(() => {
      const drawn = new MutationObserver(() => {
        if (!document.querySelector('[aria-label="keep, UPS, 1-2"]')) return
        drawn.disconnect()
        requestAnimationFrame(() => setTimeout(() => Object.assign(window, { drawnAt: performance.now() })))
      })
      drawn.observe(document, { childList: true, subtree: true })
    })
    await page.goto(lab.url)
    await drawn(page, 'keep, UPS, 1-2').waitFor()
    times.push(
      await page.waitForFunction(() => (window as unknown as { drawnAt?: number }).drawnAt).then((at) => at.jsonValue() as Promise<number>),
    )
    await context.close()
    await lab.stop()
  }
  await lab.remove()
  console.log(`Rack sheet drawn, from the start of the navigation to the frame after: ${times.map((t) => t.toFixed(0)).join(', ')} ms`)
})

test('frames while a thing is dragged', async ({ page }) => {
  const to = (await drawn(page, 'keep, UPS, 1-2').boundingBox())!
  await page.evaluate(() => {
    const frames: number[] = []
    let last = performance.now()
    const tick = (now: number) => {
      frames.push(now - last)
      last = now
      requestAnimationFrame(tick)
    }
    requestAnimationFrame(tick)
    Object.assign(window, { frames })
  })
  await drag(page, drawn(page, 'anvil, server, 12-13'), { x: to.x + 80, y: to.y }, false)
  for (let i = 0; i < 120; i++) await page.mouse.move(to.x + 80 + Math.sin(i / 5) * 40, to.y - 4 * i)
  const frames = await page.evaluate(() => (window as unknown as { frames: number[] }).frames.slice(1).sort((a, b) => a - b))
  const at = (q: number) => (frames[Math.floor(frames.length * q)] ?? 0).toFixed(1)
  console.log(`drag: ${frames.length} frames, median ${at(0.5)} ms, 95 % ${at(0.95)} ms, longest ${at(0.999)} ms`)
  await page.mouse.up()
})

test('a keystroke in the quick line', async ({ page }) => {
  const line = page.getByRole('combobox', { name: 'Quick line' })
  await line.focus()
  const times: number[] = []
  for (const letter of '19-20 switch "attic": 4kg') {
    const from = performance.now()
    await page.keyboard.press(letter === ' ' ? 'Space' : letter)
    await page.evaluate(() => new Promise(requestAnimationFrame))
    times.push(performance.now() - from)
  }
  await expect(page.locator('[data-would]')).toBeVisible()
  times.sort((a, b) => a - b)
  console.log(
    `keystroke until the next frame, with the test's own round trips: median ${times[12]?.toFixed(1)} ms, longest ${times.at(-1)?.toFixed(1)} ms`,
  )
})
