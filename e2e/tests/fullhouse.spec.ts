// Racks of 42 units, full of devices, and fifteen things on one shelf.
import { drawn, expect, test } from '../fixtures'

const rack = (r: number) => [
  `rack "Bay ${r}": 42U`,
  ...Array.from({ length: 36 }, (_, i) => `${42 - i} server "box ${r}-${i}": 8 bays 2.5in, 1U`),
  `1-4 shelf "boards ${r}":`,
  ...Array.from({ length: 15 }, (_, i) => `    single-board computer "node ${r}-${i + 1}"`),
]

test.beforeEach(async ({ lab, page }) => {
  const text = [1, 2, 3, 4].flatMap(rack).join('\n')
  expect((await lab.post('/api/v1/rundown', { base_revision: 0, text })).ok).toBe(true)
  await page.reload()
})

test('all racks are as high as there is room, with names that stand clear of each other', async ({ page, lab }) => {
  await page.goto(`${lab.url}/rack/all`)
  await expect(page.locator('[data-drawing]')).toHaveCount(4)
  await expect(page.locator('[data-drawing]').first().getByText('box 1-35', { exact: true }).last()).toBeVisible()
  const seen = await page.evaluate(() => {
    const drawing = document.querySelector('[data-drawing]')!
    const boxes = [...drawing.querySelectorAll('text')].filter((t) => t.textContent?.trim()).map((t) => t.getBoundingClientRect())
    // Lines may touch; half a line over another cannot be read.
    const over = boxes.filter((a, i) =>
      boxes.some(
        (b, j) => j > i && a.left < b.right && b.left < a.right && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > a.height / 2,
      ),
    )
    const room = drawing.closest('.room')!.getBoundingClientRect()
    return { over: over.length, texts: boxes.length, used: drawing.getBoundingClientRect().height / room.height }
  })
  expect(seen.over).toBe(0)
  expect(seen.texts, 'the names, and the numbers of some units').toBeGreaterThan(36 + 8)
  expect(seen.used).toBeGreaterThan(0.85)
  expect(seen.used).toBeLessThanOrEqual(1)
})

test('fifteen things on a shelf are told apart', async ({ page }) => {
  await page.setViewportSize({ width: 1600, height: 1400 })
  for (let i = 1; i <= 15; i++) await expect(drawn(page, `node 1-${i}, single-board computer`).first()).toBeVisible()
  const texts = await page
    .locator('[data-drawing] [aria-label^="node 1-"] text.name')
    .evaluateAll((list) => list.map((t) => t.textContent?.trim()))
  expect(texts).toEqual(Array.from({ length: 15 }, (_, i) => `${i + 1}`))
})
