// Ways, slow links and threads: how wide it is from the desk to the disks, and what
// cuts off the dome.
import { cardOf, expect, test, type } from '../fixtures'
import type { Page } from '@playwright/test'

test.use({ demo: true })

const box = (page: Page, title: string) => page.locator('svg.drawing').getByRole('button', { name: new RegExp(`^${title}, `) })
async function choose(page: Page, label: string, name: string) {
  await page.getByRole('combobox', { name: label }).focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.type(name)
  await page
    .getByRole('option', { name: new RegExp(`^${name}\\b`) })
    .first()
    .click()
}

test('the widest way from the desk to the disks is read, and where a VLAN does not go', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/ways`)
  await expect(page.getByText('Choose two devices')).toBeVisible()
  await choose(page, 'From', 'vesper')
  await choose(page, 'To', 'silo')
  await expect(page.getByRole('heading', { name: 'vesper to silo: 1 Gb/s' })).toBeVisible()
  const way = page.getByRole('list', { name: 'Way' })
  await expect(way.getByRole('listitem')).toHaveText(['vesper', '1 Gb/s1 – 1', 'core', '10 Gb/ss1 – s1', 'silo'])
  await expect(page.getByText('Held down by vesper/1, Study plate/1, PP1/1 and core/1.')).toBeVisible()
  await expect(page.getByText('core/15 - silo/1 stands by.')).toBeVisible()
  await expect(page.getByRole('button', { name: /^vesper 1, Study plate 1, PP1 1, core 1; 1 Gb\/s/ })).toBeVisible()

  // What the server says is what is shown.
  const devices = await lab.get<{ id: string; name: string }[]>('/api/v1/devices')
  const id = (name: string) => devices.find((d) => d.name === name)!.id
  const told = await lab.get(`/api/v1/ways?from=${id('vesper')}&to=${id('silo')}`)
  expect(told).toMatchObject({ speed_mb: 1000, one_flow_mb: 1000, held_by: ['vesper/1', 'Study plate/1', 'PP1/1', 'core/1'] })
  expect(told).toMatchObject({ standby: ['core/15 - silo/1'], hops: [{ device: 'vesper' }, { device: 'core', in: '1', out: 's1' }, {}] })

  await page.getByRole('button', { name: 'The other way round' }).click()
  await expect(page.getByRole('heading', { name: 'silo to vesper: 1 Gb/s' })).toBeVisible()
  await choose(page, 'Which links', 'VLAN 20 servers')
  await expect(page.getByText('VLAN 20 does not reach vesper.')).toBeVisible()

  // A lead that does not work any more takes the way with it.
  await choose(page, 'Which links', 'over all links')
  await type(page, 'core/1 - PP1/1 cat6, faulty')
  await expect(page.getByText('No link leads there.')).toBeVisible()
})

test('the way between two things is lit on the map, by pointer and by keys', async ({ page }) => {
  await page.keyboard.press('4')
  await box(page, 'loft switch').click()
  await box(page, 'dome switch').click({ modifiers: ['Shift'] })
  const panel = page.getByRole('region', { name: 'Way' })
  await expect(panel).toContainText('loft switch to dome switch: 1 Gb/s')
  await expect(panel).toContainText('2 × 1 Gb/s')
  await expect(page.locator('.run.way')).toHaveCount(2)
  await expect(box(page, 'gate')).toHaveClass(/dim/)
  await expect(box(page, 'core')).not.toHaveClass(/dim/)
  await panel.getByRole('button', { name: 'Close' }).click()
  await expect(panel).toBeHidden()

  await box(page, 'dome switch').focus()
  await page.keyboard.press('Enter')
  await page.keyboard.press('ArrowUp')
  await page.keyboard.press('Shift+Enter')
  await expect(panel).toContainText('dome switch to core: 1 Gb/s')

  // The card says how wide the ways are that are asked for most, and leads there.
  await cardOf(page)
    .getByRole('button', { name: /^to silo 1 Gb\/s/ })
    .click()
  await expect(page.getByRole('heading', { name: 'dome switch to silo: 1 Gb/s' })).toBeVisible()
})

test('what cuts off the dome is found, and a second lead ends it', async ({ page }) => {
  await page.goto(page.url().replace(/\/[^/]*$/, '/networks/threads'))
  const row = page.getByRole('row', { name: /^core\/s2 - dome switch\/s1/ })
  await expect(row).toContainText('all-sky, dome switch, plover')
  await expect(page.getByRole('row', { name: /^gate 21/ })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Levels' })).toContainText('6 threads; gate cuts off 21')
  await row.getByRole('button').first().click()
  await expect(page).toHaveURL(/\/cabling/)
  await page.goBack()

  await type(page, 'loft switch/8 - dome switch/8 30m cat6a')
  await expect(row).toBeHidden()
  await expect(page.getByRole('row', { name: /^dome switch 2/ })).toBeVisible()

  await page.getByRole('link', { name: 'Map', exact: true }).click()
  await page.getByRole('button', { name: 'Threads', exact: true }).click()
  await expect(box(page, 'gate')).toContainText('cuts 21')
})

test('a slow link names its fix, and a pull sheet what is cut off', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/slow`)
  await expect(page.getByRole('row', { name: /^core\/s2 - dome switch\/s1/ })).toContainText(
    'Put 10 Gb/s transceivers in core/s2 and dome switch/s1.',
  )
  const devices = await lab.get<{ id: string; name: string }[]>('/api/v1/devices')
  await page.goto(`${lab.url}/pull/${devices.find((d) => d.name === 'PP3')!.id}`)
  await expect(page.getByRole('heading', { name: 'Cut off from the line outside' })).toBeVisible()
  await expect(page.getByText('3 devices: all-sky, dome switch, plover')).toBeVisible()
})
