import { execFileSync } from 'node:child_process'
import { devices, type Page } from '@playwright/test'
import { drawn, expect, onStaff, quick, test, type } from '../fixtures'

const jack = (page: Page, name: string) => page.locator(`[data-jack="${name}"]`)
const strip = (page: Page, words: RegExp) => page.getByRole('group', { name: 'Trails' }).getByRole('button', { name: words })
const card = (page: Page) => page.getByRole('complementary', { name: 'Card' })
const view = (page: Page, name: string) => page.getByRole('group', { name: 'What is shown' }).getByRole('button', { name, exact: true }).click()

test('a panel is patched by one line, and undone by one key', async ({ page }) => {
  await type(page, 'rack "Cupboard": 6U')
  await type(page, '6 patch panel "PP1", 24 ports rj45 1G')
  await type(page, '5 switch "core", 24 ports rj45 100M/1G 2 rows down, 2 ports sfp+ 10G')
  await quick(page).fill('core/1-24 - PP1/1-23 0.25m yellow')
  await expect(page.getByText('24 ports are to go to 23; write as many on both sides')).toBeVisible()
  await type(page, 'core/1-24 - PP1/1-24 0.25m yellow')
  await page.keyboard.press('Escape')
  await page.goto(new URL('/cabling', page.url()).href)
  await onStaff(page, 'core').click()
  await expect(page.getByText('core · 24 of 24 copper')).toBeVisible()
  await expect(strip(page, /^core 7, PP1 7; goes no further; 0.25 m$/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('core · 0 of 24 copper')).toBeVisible()
  await expect(page.getByText('Nothing is plugged into it yet.')).toBeVisible()
})

test('the same port twice, and a port that is not there, are refused with who has it', async ({ page }) => {
  await type(page, 'rack "Cupboard": 6U')
  await type(page, '6 patch panel "PP1", 8 ports rj45 1G')
  await type(page, '5 switch "core", 8 ports rj45 1G')
  await type(page, 'core/3 - PP1/3')
  for (const [line, say] of [
    ['core/4 - PP1/3', 'PP1/3 has “core/3 - PP1/3” in it already; unplug that first, or swap the two'],
    ['core/9 - PP1/4', '“core” has no port “9”; it has 1-8 and in1'],
    ['core/4 - core/4', 'both ends are plugged into the same port'],
    ['core/4 - PP1/4 blurple', 'blurple: did you mean purple?'],
    ['core/4 - PP1/4 -1m', 'a length cannot be negative'],
  ] as const) {
    await quick(page).fill(line)
    await expect(page.getByText(say)).toBeVisible()
  }
})

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test.beforeEach(async ({ page, lab }) => {
    await page.goto(new URL('/cabling', lab.url).href)
    await expect(page.getByText(/^core · 22 of 24 RJ45/)).toBeVisible()
  })

  test('a trail is followed to the loft, and lights up wherever it is drawn', async ({ page }) => {
    const loft = strip(page, /core 3, PP1 3, Loft plate 1, loft ap 1; 1 Gb\/s; 19.25 m/)
    await loft.hover()
    await expect(jack(page, 'core/3')).toHaveClass(/lit/)
    await expect(jack(page, 'core/4')).not.toHaveClass(/lit/)
    await jack(page, 'core/4').hover()
    await expect(strip(page, /swift 1/)).toHaveClass(/lit/)
    await loft.click()
    await expect(card(page)).toContainText('loft ap 1')
    await expect(card(page)).toContainText('19.25 m in 3 pieces')
    await expect(card(page)).toContainText('the rest would carry 10 Gb/s')
    await expect(card(page)).toContainText('loft ap goes dark')
    await page.keyboard.press('1')
    await page.locator('[data-lead]').first().waitFor()
    await onStaff(page, 'core').click()
    await card(page).getByRole('button', { name: /PP1\/3/ }).hover()
    await expect(page.locator('[data-lead].lit')).toHaveCount(1)
  })

  test('a cable is led from port to port, across two faces', async ({ page }) => {
    await jack(page, 'core/22').click()
    await card(page).getByRole('button', { name: 'Lead a cable' }).click()
    await expect(jack(page, 'core/s4')).toHaveAccessibleName(/no: .*transceiver/)
    await jack(page, 'core/s4').click()
    await expect(page.getByText('It does not go there:')).toBeVisible()
    await onStaff(page, 'gate').click()
    await expect(jack(page, 'gate/3')).toHaveClass(/may/)
    await jack(page, 'gate/1').click()
    await expect(page.getByText(/It does not go there: .* is in it/)).toBeVisible()
    await jack(page, 'gate/3').click()
    await expect(strip(page, /gate 3, core 22/)).toBeVisible()
    // The other end goes somewhere else, the two swap, and one is unplugged.
    await jack(page, 'gate/3').click()
    await card(page).getByRole('button', { name: 'Swap…' }).click()
    await card(page).getByRole('combobox', { name: 'Swap with port' }).selectOption('4')
    await card(page).getByRole('button', { name: 'Swap', exact: true }).click()
    await expect(strip(page, /gate 4, core 22/)).toBeVisible()
    await card(page).getByRole('button', { name: 'Unplug' }).click()
    await expect(strip(page, /gate 4/)).toHaveCount(0)
  })

  test('a cable is led on the elevation, where a port is seen', async ({ page }) => {
    const port = (name: string) => page.locator(`[data-port="${name}"]`)
    await page.keyboard.press('1')
    await port('core/3').hover()
    await expect(page.locator('[data-lead].lit')).toHaveCount(1)
    // The thing first, then its port.
    await onStaff(page, 'anvil').click()
    await port('core/22').click()
    await expect(card(page).getByRole('button', { name: 'Name: core' })).toBeVisible()
    await port('core/22').click()
    await expect(card(page).getByRole('heading', { name: 'core 22' })).toBeVisible()
    await card(page).getByRole('button', { name: 'Lead a cable' }).click()
    await expect(port('gate/3')).toHaveClass(/may/)
    await expect(port('core/3')).not.toHaveClass(/may/)
    const leads = await page.locator('[data-lead]').count()
    await port('gate/3').click()
    await expect(page.locator('[data-lead]')).toHaveCount(leads + 1)
    await expect(card(page)).toContainText('Cat 6')
    // Pressed beside its ports, the device has the card again; it is not moved.
    await drawn(page, 'gate, router, 21').click({ position: { x: 20, y: 5 } })
    await expect(card(page).getByRole('button', { name: 'Name: gate' })).toBeVisible()
    for (let i = 0; i < 2; i++) await port('core/22').click()
    await expect(card(page).getByRole('heading', { name: 'core 22' })).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(card(page).getByRole('button', { name: 'Name: core' })).toBeVisible()
  })

  test('a lead is edited in the table, others are pasted, and what is wrong is refused whole', async ({ page }) => {
    await view(page, 'Leads')
    const table = page.getByRole('table', { name: 'Leads' })
    await page.getByRole('searchbox', { name: 'Filter' }).fill('PP1.03')
    await table.getByRole('button', { name: 'Colour: yellow' }).click()
    await table.getByRole('textbox', { name: 'Colour', exact: true }).fill('blurple')
    await page.keyboard.press('Enter')
    await expect(table.getByRole('alert')).toContainText('“blurple” is not a colour known here')
    await table.getByRole('textbox', { name: 'Colour', exact: true }).fill('pink')
    await page.keyboard.press('Enter')
    await expect(table.getByRole('button', { name: 'Colour: pink' })).toBeVisible()
    await page.getByRole('searchbox', { name: 'Filter' }).fill('gate/')
    const rows = await table.getByRole('row').count()
    const paste = (text: string) =>
      table.getByRole('textbox', { name: 'One end of a new cable' }).evaluate((input, text) => {
        const data = new DataTransfer()
        data.setData('text', text)
        input.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
      }, text)
    await paste('gate/3\tPP1/20\t1\tblue\ngate/3\tPP1/21\t1\tblue')
    await expect(table.getByRole('alert')).toContainText('gate/3 has “gate/3 - PP1/20” in it already')
    await expect(table.getByRole('row')).toHaveCount(rows + 1)
    await paste('gate/3\tPP1/20\t1\tblue\ngate/4\tPP1/21\t1\tblue')
    await expect(table.getByRole('row')).toHaveCount(rows + 2)
  })

  test('the switch is replaced and keeps its cables, but for those that find no port', async ({ page }) => {
    await page.keyboard.press('1')
    await onStaff(page, 'core').click()
    await card(page).getByRole('button', { name: 'Replace' }).click()
    const box = page.getByRole('dialog', { name: 'Replace core' })
    await box.getByRole('combobox', { name: 'With' }).selectOption({ label: 'old core, switch, not placed yet' })
    await expect(box).toContainText('23 of 26 cables carry over')
    await expect(box.getByRole('list', { name: 'Left open' })).toContainText('old core has no port s1')
    await box.getByRole('button', { name: 'Replace', exact: true }).click()
    await expect(page.getByRole('img', { name: 'old core, switch, 23', exact: true })).toBeVisible()
    await page.keyboard.press('3')
    await expect(strip(page, /^old core 3, PP1 3, Loft plate 1, loft ap 1/)).toBeVisible()
  })

  test('labels are given by the pattern and printed', async ({ page, lab }) => {
    await view(page, 'Labels')
    await page.getByRole('textbox', { name: 'Pattern' }).fill('{shelf}')
    await expect(page.getByRole('alert')).toContainText('{shelf} is not known in a label')
    await page.getByRole('textbox', { name: 'Pattern' }).fill('{a}→{b}')
    await page.getByRole('button', { name: /^Label \d+$/ }).click()
    await expect(page.getByText('Every cable has a label.')).toBeVisible()
    await expect(page.getByRole('img', { name: 'The first labels of the sheet' })).toBeVisible()
    const href = await page.getByRole('link', { name: /^PDF, / }).getAttribute('href')
    const pdf = await page.request.get(new URL(href ?? '', lab.url).href)
    expect(pdf.headers()['content-type']).toBe('application/pdf')
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: await pdf.body() }).toString()
    expect(text).toContain('core/13→gate/2')
  })

  test('what is full, what is left, what is to buy and how one gets in', async ({ page }) => {
    await view(page, 'Runs')
    await expect(page.getByRole('region', { name: 'stairs run' })).toContainText('42 % of at most 40 %: past its fill')
    await view(page, 'Ports left')
    await page.getByRole('combobox', { name: 'Speed' }).selectOption('1 Gb/s')
    await expect(page.getByRole('listitem').filter({ hasText: 'Dome plate/1' })).toContainText('leads to core/5')
    await view(page, 'To buy')
    await expect(page.getByRole('table', { name: 'To buy' })).toContainText('too short: PP1.11')
    await view(page, 'Ways in')
    await expect(page.getByRole('table', { name: 'Console lines' })).toContainText('7002')
    await expect(page.getByRole('table', { name: 'KVM inputs' })).toContainText('kvm3')
  })

  test('from a finding, from what is looked for and from a label one gets to the cable', async ({ page, lab }) => {
    await page.keyboard.press('9')
    const row = page.getByRole('listitem').filter({ hasText: 'core/16 - ember/1 is faulty and still plugged in.' })
    await row.getByRole('button', { name: 'the cable' }).click()
    await expect(card(page).getByRole('heading', { name: 'core 16' })).toBeVisible()
    await card(page).getByRole('button', { name: 'State: faulty' }).click()
    await page.getByRole('option', { name: 'in use' }).click()
    await expect(card(page).getByRole('button', { name: 'State: in use' })).toBeVisible()
    await page.keyboard.press('9')
    await expect(page.getByText('core/16 - ember/1 is faulty')).toHaveCount(0)

    await page.keyboard.press('/')
    await page.keyboard.type('PP1.03')
    await page.getByRole('listbox').getByRole('option').first().click()
    await expect(card(page)).toContainText('PP1.03')
    // The code on a label leads there too.
    const cables = (await lab.get<{ cables: { id: string; label?: string }[] }>('/api/v1/lab')).cables
    await page.goto(new URL(`/cabling?cable=${cables.find((c) => c.label === 'PP1.04')?.id}`, lab.url).href)
    await expect(card(page)).toContainText('PP1.04')
    await expect(card(page)).toContainText('swift 1')
  })

  test('one end is taken out and stays known, and every change is undone one by one', async ({ page }) => {
    await jack(page, 'core/3').click()
    await card(page).getByRole('button', { name: 'Take this end out' }).click()
    await expect(jack(page, 'core/3')).toHaveAccessibleName('core 3: free')
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(jack(page, 'core/3')).toHaveAccessibleName('core 3: to PP1/3')
    await jack(page, 'core/3').click()
    await card(page).getByRole('button', { name: 'Other end: PP1/3' }).click()
    await card(page).getByRole('textbox', { name: 'Other end' }).fill('PP1/4')
    await page.keyboard.press('Enter')
    await expect(card(page).getByRole('alert')).toContainText('PP1/4 has “PP1.04” in it already; unplug that first, or swap the two')
    await card(page).getByRole('textbox', { name: 'Other end' }).fill('the attic')
    await page.keyboard.press('Enter')
    await expect(card(page).getByRole('alert')).toContainText('is no port; write the device, a slash and the port')
    await card(page).getByRole('textbox', { name: 'Other end' }).fill('PP1/20')
    await page.keyboard.press('Enter')
    await expect(strip(page, /^core 3, PP1 20; goes no further/)).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(strip(page, /^core 3, PP1 3, Loft plate 1, loft ap 1/)).toBeVisible()
  })

  test('all faces show the trail that is lit, and the keyboard goes from port to port', async ({ page }) => {
    await view(page, 'All faces')
    await expect(page.getByText(/^Pantry · \d+ of \d+ come out alone/)).toBeVisible()
    await jack(page, 'core/3').focus()
    await expect(jack(page, 'PP1/3')).toHaveClass(/lit/)
    await page.keyboard.press('ArrowRight')
    await expect(jack(page, 'core/4')).toBeFocused()
    await expect(jack(page, 'PP1/4')).toHaveClass(/lit/)
    await page.keyboard.press('Enter')
    await expect(card(page).getByRole('heading', { name: 'core 4' })).toBeVisible()
    await page.getByRole('group', { name: 'Face' }).getByRole('button', { name: 'Rear' }).click()
    await expect(jack(page, 'PP1/3 rear')).toHaveAccessibleName('PP1 3 rear: to Loft plate/1 rear')
    await page.keyboard.press('Escape')
    await expect(card(page)).toHaveCount(0)
  })
})

test.describe('at the rack', () => {
  const { defaultBrowserType: _, ...phone } = devices['Pixel 7']
  test.use({ ...phone, demo: true })

  test('a pull sheet is ticked off, and checked in reverse', async ({ page, lab }) => {
    const answer = await page.request.get(new URL('/api/v1/devices', lab.url).href)
    const anvil = ((await answer.json()) as { id: string; name?: string }[]).find((d) => d.name === 'anvil')
    await page.goto(new URL(`/pull/${anvil?.id}`, lab.url).href)
    await expect(page.getByRole('heading', { name: 'Take out anvil' })).toBeVisible()
    await expect(page.getByText('6 of 6 to unplug')).toBeVisible()
    const steps = page.getByRole('checkbox')
    for (let i = 0; i < 6; i++) await steps.nth(i).check()
    await expect(page.getByText('Everything is out.')).toBeVisible()
    await page.reload()
    await expect(page.getByText('Everything is out.')).toBeVisible()
    await page.getByRole('button', { name: 'Put it back' }).click()
    await expect(page.getByText('6 of 6 to plug in')).toBeVisible()
    await expect(page.getByRole('listitem').filter({ has: page.getByRole('checkbox') }).first()).toContainText('in2')
    await steps.first().check()
    await expect(page.getByText('5 of 6 to plug in')).toBeVisible()
  })

  test('a cable is plugged in where one stands', async ({ page, lab }) => {
    await page.goto(new URL('/cabling', lab.url).href)
    await jack(page, 'core/22').tap()
    await card(page).getByRole('button', { name: 'Lead a cable' }).tap()
    await expect(page.getByText('A cable is being led from core 22: pick where it goes.')).toBeVisible()
    await page.getByRole('group', { name: 'What is shown' }).getByRole('button', { name: 'All faces' }).tap()
    await jack(page, 'gate/3').tap()
    await expect(card(page).getByRole('button', { name: 'Other end: gate/3' })).toBeVisible()
    for (const button of await card(page).getByRole('button').all()) expect((await button.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(24)
  })

  test('from its card a device is taken out', async ({ page, lab }) => {
    await page.goto(new URL('/rack', lab.url).href)
    await onStaff(page, 'anvil').tap()
    await card(page).getByRole('button', { name: 'Take it out' }).tap()
    await expect(page.getByRole('heading', { name: 'Take out anvil' })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Close the card' })).toBeHidden()
  })
})
