// Figures of the Services sheet: the towers of 80 guests on 8 hosts from the click to what
// is drawn, and what a drag takes of the main thread. Prints, checks no times.
import { expect, test } from '@playwright/test'
import { opened, served } from './served'

function runs(): string {
  const lines = ['rack "R": 42U']
  for (let h = 0; h < 8; h++) lines.push(`${h + 1} server "host ${h}": 256GB, 32 cores, runs hypervisor, keeps 8GB`)
  for (let g = 0; g < 80; g++) lines.push(`on "host ${g % 8}": vm "guest ${g}": 4 vcpu, ${4 + (g % 20)}GB, uses ${1 + (g % 4)}GB`)
  return lines.join('\n')
}

test('towers of 80 guests', async ({ page }) => {
  test.setTimeout(120_000)
  const lab = await served(runs())
  await page.setViewportSize({ width: 1280, height: 800 })
  await page.goto(`${lab.url}/rack`)
  await page.getByRole('navigation', { name: 'Staff' }).waitFor()
  await page.waitForTimeout(1000)
  for (const which of ['first', 'again']) {
    const took = await opened(page, '/services', '.guest', 80)
    console.log(
      `80 guests, ${which}: ${took.after.toFixed(0)} ms, longest task ${took.task ? `${took.task.toFixed(0)} ms` : 'under 50 ms'}`,
    )
    expect(await page.locator('.guest').count()).toBe(80)
    await page.getByRole('link', { name: 'Rack', exact: false }).first().click()
  }
  await page.goto(`${lab.url}/services`)
  await page.locator('.guest').nth(79).waitFor()
  const work = await page.evaluate(async () => {
    const button = document.querySelector<HTMLElement>('.guest button')!
    const hosts = [...document.querySelectorAll<HTMLElement>('.host')]
    const data = new DataTransfer()
    const fire = (on: HTMLElement, type: string) =>
      on.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data }))
    const frame = () => new Promise((done) => requestAnimationFrame(() => setTimeout(done, 0)))
    fire(button, 'dragstart')
    await frame()
    let most = 0
    for (const h of hosts) {
      const from = performance.now()
      fire(h, 'dragover')
      await Promise.resolve()
      h.getBoundingClientRect()
      most = Math.max(most, performance.now() - from)
      await frame()
      fire(h, 'dragleave')
      await frame()
    }
    fire(button, 'dragend')
    return most
  })
  console.log(`a drag over a host: at most ${work.toFixed(1)} ms of work`)
  await lab.remove()
})
