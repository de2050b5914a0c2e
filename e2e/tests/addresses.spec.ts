// Addresses, names, lines outside and who reaches whom: the next free address is given
// away, the double one is put right, a zone goes to a name server's checker.
import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { cardOf, expect, quick, serious, test, type } from '../fixtures'

test.use({ demo: true })

const cell = (page: Page, says: string | RegExp) => page.getByRole('gridcell', { name: says })
async function subnet(page: Page, cidr: string) {
  await page.getByRole('button', { name: new RegExp(`^${cidr.replaceAll('.', '\\.')} `) }).click()
  await expect(page.getByRole('heading', { name: cidr })).toBeVisible()
}

test('a device is given the next free address, by keys', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/addresses`)
  await subnet(page, '10.20.0.0/24')
  await expect(page.getByText('servers, VLAN 20 · 16 had, 79 handed out by gate, 160 left')).toBeVisible()
  await expect(cell(page, '10.20.0.1: gate, the gateway')).toBeVisible()
  await expect(cell(page, '10.20.0.255: no device may have it')).toBeVisible()
  await cell(page, '10.20.0.1: gate, the gateway').focus()
  await page.keyboard.press('ArrowRight')
  await expect(cell(page, '10.20.0.2: free, the next one')).toBeFocused()
  await page.keyboard.press('Enter')
  const card = cardOf(page)
  await expect(card).toContainText('a free address · servers')
  await card.getByRole('combobox', { name: 'Give it to' }).fill('siskin')
  await page.getByRole('option', { name: 'siskin' }).click()
  await card.getByRole('button', { name: 'Give it', exact: true }).click()
  await expect(cell(page, '10.20.0.2: siskin')).toBeVisible()
  await expect(page.getByRole('button', { name: 'Next free: 10.20.0.3' })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cell(page, '10.20.0.2: free, the next one')).toBeVisible()
})

test('the address that two have is seen and put right, and a reservation is dragged', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/addresses`)
  await subnet(page, '10.20.0.0/24')
  await cell(page, '10.20.0.53: finch and thrush, twice').click()
  const card = cardOf(page)
  await expect(card).toContainText('10.20.0.53 is on finch and thrush.')
  await card.getByRole('button', { name: 'Give thrush 10.20.0.2, the next free one' }).click()
  await expect(cell(page, '10.20.0.53: finch')).toBeVisible()
  await expect(cell(page, '10.20.0.2: thrush')).toBeVisible()

  const from = (await cell(page, '10.20.0.130: old core, reserved').boundingBox())!
  const to = (await cell(page, '10.20.0.140: handed out').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(to.x + to.width / 2, to.y + to.height / 2, { steps: 8 })
  await page.mouse.up()
  await expect(cell(page, '10.20.0.140: old core, reserved')).toBeVisible()
  expect(await lab.get<{ name: string; addresses?: object[] }[]>('/api/v1/devices')).toContainEqual(
    expect.objectContaining({
      name: 'old core',
      addresses: [{ address: '10.20.0.140', how: 'reserved', mac: '02:4e:00:00:20:30' }],
    }),
  )
})

test('a subnet is renumbered after a look at what that changes', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/addresses`)
  await subnet(page, '10.40.0.0/24')
  await page.getByRole('button', { name: 'Renumber…' }).click()
  const box = page.getByRole('dialog', { name: 'Renumber' })
  await box.getByRole('textbox', { name: 'It becomes' }).fill('10.41.0.0/29')
  await expect(box).toContainText('10.41.0.0/29 has no place for')
  await expect(box.getByRole('button', { name: 'Renumber' })).toBeDisabled()
  await box.getByRole('textbox', { name: 'It becomes' }).fill('10.41.0.0/24')
  await expect(box).toContainText('lookout')
  await box.getByRole('button', { name: 'Renumber' }).click()
  await expect(page.getByRole('heading', { name: '10.41.0.0/24' })).toBeVisible()
  await expect(cell(page, '10.41.0.10: lookout')).toBeVisible()
  await quick(page).fill('subnet 10.41.0.5/24')
  await expect(page.getByText(/10\.41\.0\.5\/24 is an address in the subnet 10\.41\.0\.0\/24/)).toBeVisible()
})

test('why guests reach only the internet, and what the dome cannot', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/reach`)
  const at = (name: string) => page.getByRole('button', { name })
  await at('guests to internet: some').click()
  const panel = page.getByRole('region', { name: 'guests to internet' })
  await expect(panel).toContainText('Wiring and legs let it: over gate.')
  await expect(panel.getByRole('textbox', { name: 'down' })).toHaveValue('30')
  await at('guests to house: none').click()
  await expect(page.getByRole('region', { name: 'guests to house' })).toContainText('The rule holds: nothing goes round it.')
  await at('guests to servers: none').click()
  await expect(page.getByRole('region', { name: 'guests to servers' })).toContainText('The rule holds')
  const broken = page.getByRole('list', { name: 'Rules that cannot hold' })
  await expect(broken).toContainText('dome → internet cannot be gate has no leg in dome (50)')

  // A leg and a gateway make it hold.
  await type(page, 'gate 10.50.0.1')
  await type(page, 'subnet 10.50.0.0/24: gateway .1')
  await expect(at('dome to internet: all. over gate')).toBeVisible()
  await expect(broken).toBeHidden()

  // What nobody said is said by keys, and taken back.
  await at('workshop to internet: not said').focus()
  await page.keyboard.press('Enter')
  await page.getByRole('region', { name: 'workshop to internet' }).getByRole('button', { name: 'None' }).click()
  await expect(at('workshop to internet: none')).toBeVisible()
  await page.getByRole('region', { name: 'workshop to internet' }).getByRole('button', { name: 'Not said' }).click()
  await expect(at('workshop to internet: not said')).toBeVisible()
})

test('a zone is downloaded, and a name server would take it', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/names`)
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('hymns')
  await page.getByRole('textbox', { name: 'Leads to' }).fill('anvil')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('cell', { name: 'hymns.quarry.home.arpa' })).toBeVisible()
  await expect(page.getByRole('row', { name: /books.quarry.home.arpa library → way in → library port 8080/ })).toBeVisible()
  for (const zone of ['quarry.home.arpa', '0.20.10.in-addr.arpa']) {
    const saved = page.waitForEvent('download')
    await page.getByRole('link', { name: zone, exact: true }).click()
    const file = join(mkdtempSync(join(tmpdir(), 'zone-')), 'zone')
    await (await saved).saveAs(file)
    expect(execFileSync('named-checkzone', ['-i', 'local', zone, file]).toString()).toContain('OK')
  }
  const hosts = await page.request.get(`${lab.url}/api/v1/files/hosts`)
  expect(await hosts.text()).toContain('10.20.0.12\tanvil.quarry.home.arpa anvil')
})

test('the lines outside, what is left without one, and the card of a device', async ({ page, lab }) => {
  await page.goto(`${lab.url}/networks/outside`)
  await expect(page.getByText('Without fibre line everybody shares mobile line, 60 Mb/s down; guests at most 30.')).toBeVisible()
  await type(page, 'line "fibre line": out')
  await expect(page.getByRole('listitem').filter({ hasText: /^fibre line/ })).toContainText('out')
  await page.getByRole('button', { name: 'Tunnels' }).click()
  await expect(page.getByRole('row', { name: /parents/ })).toBeVisible()
  await page.goto(`${lab.url}/networks`)
  const map = page.locator('svg.drawing')
  await expect(map.getByRole('button', { name: /^fibre line, fibre/ })).toBeVisible()
  await page.getByRole('button', { name: 'Subnets' }).click()
  await expect(map.getByRole('button', { name: /^core, / })).toContainText('10.99.0.2')
  await map.getByRole('button', { name: /^thrush, / }).click()
  const card = cardOf(page)
  await expect(card).toContainText('another has it too')
  await expect(card).toContainText('internet: everything as a rule for servers')
  await card.getByRole('button', { name: '10.20.0.53', exact: true }).click()
  await expect(page.getByRole('heading', { name: '10.20.0.0/24' })).toBeVisible()
})

test('the screens of addresses are whole for who cannot see, and on a phone', async ({ page, lab }) => {
  for (const path of ['addresses', 'reach', 'outside', 'names']) {
    await page.goto(`${lab.url}/networks/${path}`)
    await expect(page.locator('[data-scroll]').first()).toBeVisible()
    expect(await serious(page), path).toEqual([])
  }
  await page.emulateMedia({ colorScheme: 'dark' })
  expect(await serious(page, true)).toEqual([])
  await page.emulateMedia({ colorScheme: 'light' })
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${lab.url}/networks/addresses`)
  await page.getByRole('button', { name: '10.10.0.30' }).click()
  await expect(cardOf(page)).toContainText('vesper')
})
