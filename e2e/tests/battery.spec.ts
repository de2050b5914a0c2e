// On battery: the order in which things go is set, and the curve follows; what it costs,
// and what being off at night would save.
import type { Binary } from '../binary'
import { expect, test, type } from '../fixtures'

/** What keep holds: its battery ages with the day, so that its figures are asked for rather than known. */
async function holds(lab: Binary, add = 0) {
  const report = await lab.get<{ ups: { name: string; minutes: number; left: number; minutes_add: number }[] }>(
    `/api/v1/reports/battery?add=${add}`,
  )
  return report.ups.find((u) => u.name === 'keep')!
}

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('when a device goes is set, and the curve changes with it', async ({ page, lab }) => {
    await page.goto(new URL('/power/battery', lab.url).href)
    const keep = page.getByRole('region', { name: 'keep' })
    const held = await holds(lab)
    await expect(keep.getByRole('heading')).toContainText(`${Math.floor(held.minutes)} min`)
    await expect(keep).toContainText(`battery at ${Math.round(100 * held.left)} %`)
    const falls = keep.locator('path.falls')
    const before = await falls.getAttribute('d')
    const row = keep.getByRole('row', { name: /^anvil/ })
    await expect(row).toContainText('40 %')
    await row.getByRole('button', { name: 'When anvil goes: at 40%, edit' }).click()
    await page.getByRole('textbox', { name: 'When anvil goes' }).fill('at 140%')
    await page.keyboard.press('Enter')
    await expect(keep).toContainText('percent of the battery')
    await page.getByRole('textbox', { name: 'When anvil goes' }).fill('after 1min')
    await page.keyboard.press('Enter')
    await expect(row).toContainText('1:00')
    await expect(row).toContainText('2:30')
    await expect(falls).not.toHaveAttribute('d', before ?? '')
    await page.keyboard.press('Control+z')
    await expect(falls).toHaveAttribute('d', before ?? '')
  })

  test('an order is suggested, tried with more load, and kept as a plan', async ({ page, lab }) => {
    await page.goto(new URL('/power/battery', lab.url).href)
    const drystone = page.getByRole('region', { name: 'drystone' })
    await expect(drystone).toContainText('Lost hard: plover.')
    await page.getByRole('button', { name: 'Suggest an order' }).click()
    await expect(drystone.getByRole('row', { name: /^plover/ })).toContainText('at 60%')
    await expect(drystone.getByRole('row', { name: /^dome switch/ })).toContainText('last')
    await expect(drystone).not.toContainText('Lost hard')
    await page.getByRole('textbox', { name: 'More load, in W' }).fill('152')
    const more = (await holds(lab, 152)).minutes_add
    await expect(page.getByRole('region', { name: 'keep' })).toContainText(`With 152 W more ${Math.floor(10 * more) / 10} min`)
    await page.getByRole('textbox', { name: 'Mains back, in minutes' }).fill('6')
    await expect(page.getByRole('status').filter({ hasText: 'With the mains back' })).toContainText('silo still stopping.')
    const plan = await page.request.get(new URL('/api/v1/files/shutdown_plan.md', lab.url).href)
    expect(await plan.text()).toContain('| 5:00 |')
  })

  test('off at night is compared, and a price is found for a sum', async ({ page, lab }) => {
    await page.goto(new URL('/power/cost', lab.url).href)
    const anvil = page.getByRole('row', { name: /^anvil/ })
    await expect(anvil).toContainText('33.19')
    await expect(anvil).toContainText('90.53')
    await page.getByRole('textbox', { name: 'Off until' }).fill('11:00')
    await expect(anvil).not.toContainText('90.53')
    await page.getByRole('textbox', { name: 'What a month is to cost' }).fill('50')
    await expect(page.getByText(/a kWh would be 0\.0\d+/)).toBeVisible()
    await page.getByRole('button', { name: 'By circuit' }).click()
    await expect(page.getByRole('row', { name: /^kitchen 4/ })).toBeVisible()
    await page.getByRole('link', { name: 'Warmth and noise' }).click()
    await expect(page.getByRole('row', { name: /^Pantry room/ })).toContainText('≥ 1307')
  })
})

test('batteries and prices are typed line by line, and said back', async ({ page, lab }) => {
  await type(page, '? ups "keep": 1500VA 900W, 500W for 14min, 1000W for 5min')
  await type(page, 'keep battery: 216Wh, lead, put in 2026-01')
  await type(page, '? server "anvil": 500W')
  await type(page, 'keep - anvil')
  await type(page, 'anvil: goes at 40%, stops in 90s')
  await type(page, 'lab: price 0.31 a kWh, price 0.12 a kWh 00:30-05:30')
  const report = await lab.get<{ ups: { name: string; minutes: number; rests_on: string }[] }>('/api/v1/reports/battery')
  expect(report.ups[0]).toMatchObject({ name: 'keep', rests_on: 'points' })
  expect(report.ups[0]?.minutes).toBeLessThanOrEqual(14)
  const cost = await lab.get<{ kwh_month: number; cost_month: number }>('/api/v1/reports/cost')
  expect(cost.kwh_month).toBeCloseTo(500 * 24 * 0.03044, 6)
  expect(cost.cost_month).toBeCloseTo(500 * 0.03044 * (19 * 0.31 + 5 * 0.12), 6)
})
