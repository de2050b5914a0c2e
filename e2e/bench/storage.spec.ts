// Figures of the Storage sheet: 2,000 drives in 200 pools, 2,000 datasets and 4,000 copies
// from the click to what is drawn, with the longest task of the main thread meanwhile.
// Prints, checks no times.
import { expect, test } from '@playwright/test'
import { opened, served } from './served'

function stored(): string {
  const lines = ['place "House"', 'place "Away", outside the house']
  const tail: string[] = []
  for (let n = 0; n < 200; n++) {
    lines.push(`place "${n % 10 === 9 ? 'Away' : 'House'}"`, `  nas "nas ${n}": 12 bays, 10x 8TB hdd`)
    tail.push(`pool "data" on "nas ${n}": raid-z2 of bay 1-10`)
  }
  for (let n = 0; n < 2000; n++) {
    tail.push(`dataset "data ${n}" on "nas ${n % 200}/data": 400GB, ${['household', 'lab', 'toy'][n % 3]}`)
    tail.push(`copy of "data ${n}" to "nas ${(n + 1) % 200}/data": nightly, last 2026-11-25`)
    tail.push(`copy of "data ${n}" from "nas ${(n + 1) % 200}/data" to "nas ${(n + 9) % 200}/data": nightly, last 2026-11-26`)
  }
  return [...lines, ...tail].join('\n')
}

test('200 pools of 10 drives', async ({ page }) => {
  test.setTimeout(240_000)
  const lab = await served(stored())
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${lab.url}/rack`)
  await page.getByRole('navigation', { name: 'Staff' }).waitFor()
  await page.waitForTimeout(1000)
  for (const which of ['first', 'again']) {
    const took = await opened(page, '/storage', '.pool .blocks', 1)
    console.log(
      `200 pools, ${which}: ${took.after.toFixed(0)} ms, longest task ${took.task ? `${took.task.toFixed(0)} ms` : 'under 50 ms'}`,
    )
    expect(await page.locator('.pool').count()).toBeGreaterThan(0)
    await page.getByRole('link', { name: 'Rack', exact: false }).first().click()
  }
  await page.goto(`${lab.url}/storage`)
  await page.locator('.pool').first().waitFor()
  await page.waitForTimeout(1000)
  const copies = await opened(page, '/storage/copies', '.strips .held', 3)
  console.log(
    `2,000 datasets' copies: ${copies.after.toFixed(0)} ms, longest task ${copies.task ? `${copies.task.toFixed(0)} ms` : 'under 50 ms'}`,
  )
  await lab.remove()
})
