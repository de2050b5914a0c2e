// Figures of the Networks sheet: the map of 150 devices from the click to what is
// drawn, with the longest task of the main thread meanwhile; the work of one painted
// cell of a grid of 48 ports by 40 VLANs. Prints, checks no times.
import { expect, test } from '@playwright/test'
import { opened, served } from './served'

/** A made-up house of 150 devices: a router, two core switches, sixteen more at two links each, and what hangs on them. */
function campus(): string {
  const lines: string[] = ['vlan 10 "house"', 'vlan 20 "servers"', 'vlan 30 "guests"', 'vlan 40 "eyes"']
  const kinds = ['server', 'desktop', 'camera', 'access point', 'printer', 'mini pc']
  const links: string[] = []
  const trunk = ', untagged 10, tagged 20,30,40'
  for (let floor = 0; floor < 8; floor++) {
    lines.push(`place "Floor ${floor}"`)
    if (!floor) {
      lines.push(`  router "gate": 8 ports rj45 1G${trunk}`)
      for (const c of [0, 1]) lines.push(`  switch "heart ${c}": 48 ports rj45 1G${trunk}${c ? '' : ', bridge priority 0'}`)
      links.push('gate/1 - heart 0/1 cat6', 'gate/2 - heart 1/1 cat6', 'heart 0/2 - heart 1/2 cat6')
    }
    for (const s of [2 * floor, 2 * floor + 1]) {
      lines.push(`  switch "sw ${s}": 24 ports rj45 1G${trunk}`)
      links.push(`heart 0/${10 + s} - sw ${s}/1 cat6`, `heart 1/${10 + s} - sw ${s}/2 cat6`)
      for (let i = s; i < 131; i += 16) {
        lines.push(`  ${kinds[i % kinds.length]} "thing ${i}": 1 ports rj45 1G`)
        links.push(`sw ${s}/${3 + Math.floor(i / 16)} - thing ${i}/1 cat6`)
      }
    }
  }
  return [...lines, ...links].join('\n')
}

/** One switch of 48 ports, and 40 VLANs. */
const grid = () =>
  [
    'place "Desk"',
    '  switch "core": 48 ports rj45 1G, untagged 100',
    ...Array.from({ length: 40 }, (_, i) => `vlan ${100 + i} "net ${i}"`),
  ].join('\n')

test('the map of 150 devices', async ({ page }) => {
  test.setTimeout(120_000)
  const lab = await served(campus())
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${lab.url}/rack`)
  await page.getByRole('navigation', { name: 'Staff' }).waitFor()
  await page.waitForTimeout(1000)
  // The router, the switches, the access points, and of each switch what else hangs on it.
  const gathered = 1 + 2 + 16 + 22 + 16
  const first = await opened(page, '/networks', '[data-box]', gathered)
  console.log(
    `map of 150 devices, first: ${first.after.toFixed(0)} ms, longest task ${first.task ? `${first.task.toFixed(0)} ms` : 'under 50 ms'}`,
  )
  await page.getByRole('link', { name: 'Rack', exact: false }).first().click()
  const again = await opened(page, '/networks', '[data-box]', gathered)
  console.log(
    `map of 150 devices, again: ${again.after.toFixed(0)} ms, longest task ${again.task ? `${again.task.toFixed(0)} ms` : 'under 50 ms'}`,
  )
  expect(await page.locator('[data-box]').count()).toBe(gathered)
  await lab.remove()
})

test('a cell of a grid of 48 ports by 40 VLANs', async ({ page }) => {
  const lab = await served(grid())
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${lab.url}/networks/grid`)
  await page.getByRole('grid').waitFor()
  const cells = page.locator('[data-cell]')
  expect(await cells.count()).toBe(48 * 40)
  await page.waitForTimeout(500)
  const took = await page.evaluate(async () => {
    const times: number[] = []
    for (let i = 0; i < 30; i++) {
      const cell = document.querySelector<HTMLElement>(`[data-cell="${i} ${1 + (i % 30)}"]`)!
      cell.focus()
      await new Promise((done) => setTimeout(done, 60))
      const from = performance.now()
      cell.dispatchEvent(new KeyboardEvent('keydown', { key: 't', bubbles: true, cancelable: true }))
      await Promise.resolve()
      await new Promise<void>((done) => queueMicrotask(done))
      cell.getBoundingClientRect() // with its layout
      times.push(performance.now() - from)
      if (cell.textContent?.trim() !== 'T') throw new Error('not painted')
    }
    return times.sort((a, b) => a - b)
  })
  console.log(`a painted cell of 48 x 40: ${took[15]!.toFixed(1)} ms of work in the middle, ${took[29]!.toFixed(1)} ms at most`)
  await lab.remove()
})
