import { execFileSync } from 'node:child_process'
import { devices, type Locator, type Page } from '@playwright/test'
import { cardOf, drawn, expect, onStaff, quick, test, type } from '../fixtures'

const jack = (page: Page, name: string) => page.locator(`[data-jack="${name}"]`)
const strip = (page: Page, words: RegExp) => page.getByRole('group', { name: 'Trails' }).getByRole('button', { name: words })
const card = cardOf
const view = (page: Page, name: string) =>
  page
    .getByRole('navigation', { name: /^Tabs of/ })
    .getByRole('link', { name, exact: true })
    .click()

test('a panel is patched by one line, and undone by one key', async ({ page }) => {
  await type(page, 'rack "Cupboard": 6U')
  await type(page, '6 patch panel "PP1", 24 ports rj45 1G')
  await type(page, '5 switch "core", 24 ports rj45 100M/1G 2 rows down, 2 ports sfp+ 10G')
  await quick(page).fill('core/1-24 - PP1/1-23 0.25m yellow')
  await expect(page.getByText('24 ports cannot go to 23; write the same number on both sides')).toBeVisible()
  await type(page, 'core/1-24 - PP1/1-24 0.25m yellow')
  await page.keyboard.press('Escape')
  await page.goto(new URL('/cabling', page.url()).href)
  await onStaff(page, 'core').click()
  await expect(page.getByText('core · 24 of 24 RJ45')).toBeVisible()
  await expect(strip(page, /^core 7, PP1 7; goes no further; 0.25 m$/)).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(page.getByText('core · 0 of 24 RJ45')).toBeVisible()
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
    await card(page)
      .getByRole('button', { name: /PP1\/3/ })
      .hover()
    await expect(page.locator('[data-lead].lit')).toHaveCount(1)
  })

  test('a cable is led from port to port, across two faces', async ({ page }) => {
    await jack(page, 'core/22').click()
    await card(page).getByRole('button', { name: 'Connect a cable' }).click()
    await expect(jack(page, 'core/s4')).toHaveAccessibleName(/no: .*transceiver/)
    await jack(page, 'core/s4').click()
    await expect(page.getByText('It does not go there:')).toBeVisible()
    await onStaff(page, 'gate').click()
    await expect(jack(page, 'gate/3')).toHaveClass(/may/)
    await jack(page, 'gate/1').click()
    await expect(page.getByText(/It does not go there: .* is in it/)).toBeVisible()
    await expect(page.getByRole('alert')).toContainText('gate 1 is taken: fibre box/1 - gate/1 is in it.')
    await expect(page.getByRole('button', { name: 'Swap the two' })).toBeHidden() // a new lead has nothing to give
    await jack(page, 'gate/3').click()
    await expect(strip(page, /gate 3, core 22/)).toBeVisible()
    // Led on to a port that is taken, it changes places with the one there.
    await jack(page, 'gate/3').click()
    await onStaff(page, 'core').click()
    await jack(page, 'core/22').click()
    await card(page).getByRole('button', { name: 'Move the other end' }).click()
    await onStaff(page, 'gate').click()
    await jack(page, 'gate/2').click()
    await page.getByRole('button', { name: 'Swap the two' }).click()
    await expect(strip(page, /gate 2, core 22/)).toBeVisible()
    await expect(strip(page, /gate 3, core 13/)).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
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
    await card(page).getByRole('button', { name: 'Connect a cable' }).click()
    await expect(port('gate/3')).toHaveClass(/may/)
    await expect(port('core/3')).not.toHaveClass(/may/)
    const leads = await page.locator('[data-lead]').count()
    await port('gate/3').click()
    await expect(page.locator('[data-lead]')).toHaveCount(leads + 1)
    await expect(card(page)).toContainText('cat6')
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
    const table = page.getByRole('grid', { name: 'Leads' })
    const filter = page.getByRole('searchbox', { name: 'Filter' })
    await filter.fill('PP1.03')
    await expect(table.getByRole('gridcell', { name: 'PP1.03', exact: true })).toBeVisible()
    await expect(table.getByRole('row')).toHaveCount(3) // the headings, the new one and it
    await table.getByRole('gridcell', { name: 'yellow', exact: true }).dblclick()
    // A colour is chosen from those that are known, or pasted.
    await table.getByRole('combobox', { name: 'colour' }).selectOption('pink')
    await expect(table.getByRole('gridcell', { name: 'pink', exact: true })).toBeVisible()
    const paste = (into: Locator, text: string) =>
      into.evaluate((target, text) => {
        const data = new DataTransfer()
        data.setData('text/plain', text)
        target.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }))
      }, text)
    await table.getByRole('gridcell', { name: 'pink', exact: true }).click()
    await paste(table.getByRole('gridcell', { name: 'pink', exact: true }), 'blurple')
    await expect(page.getByRole('status').last()).toContainText('“blurple” is not a colour known here')
    await filter.fill('gate/')
    await expect(table.getByRole('gridcell', { name: 'pink', exact: true })).toHaveCount(0)
    const rows = await table.getByRole('row').count()
    const end = table.getByRole('textbox', { name: 'One end of a new one' })
    await paste(end, 'gate/3\tPP1/20\tcat6\tblue\ngate/3\tPP1/21\tcat6\tblue')
    await expect(table.getByRole('alert')).toContainText('gate/3 has “gate/3 - PP1/20” in it already')
    await expect(table.getByRole('row')).toHaveCount(rows)
    await paste(end, 'gate/3\tPP1/20\tcat6\tblue\ngate/4\tPP1/21\tcat6\tblue')
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
    // A size at which nobody could read the code is refused; another one is not.
    await page.getByRole('checkbox', { name: 'wraps round the cable' }).check()
    await expect(page.getByRole('alert')).toContainText('The code would be too small to be read')
    await page.getByRole('spinbutton', { name: 'Width in mm' }).fill('500')
    await expect(page.getByRole('alert')).toContainText('A label is 5 to 190 mm wide and high')
    await page.getByRole('spinbutton', { name: 'Width in mm' }).fill('60')
    await page.getByRole('spinbutton', { name: 'Height in mm' }).fill('25')
    await expect(page.getByRole('img', { name: 'The first labels of the sheet' })).toBeVisible()
    const href = await page.getByRole('link', { name: /^PDF, / }).getAttribute('href')
    const pdf = await page.request.get(new URL(href ?? '', lab.url).href)
    expect(pdf.headers()['content-type']).toBe('application/pdf')
    const text = execFileSync('pdftotext', ['-layout', '-', '-'], { input: await pdf.body() }).toString()
    expect(text).toContain('core/13→gate/2')
  })

  test('what is full, what is left, what is to buy and how one gets in', async ({ page }) => {
    await view(page, 'Runs')
    const stairs = page.getByRole('region', { name: 'stairs run' })
    await expect(stairs.getByRole('img', { name: '42 % of at most 40 %: overfilled' }).locator('.cable')).toHaveCount(7)
    await stairs.getByRole('button', { name: /PP1\/3 rear/ }).click()
    await expect(card(page).getByRole('heading', { name: 'PP1 3 rear' })).toBeVisible()
    await expect(page.getByRole('img', { name: /^Ports: 28 of 34/ })).toBeVisible()
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
    await row.getByRole('button', { name: 'core/16 - ember/1', exact: true }).click()
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
    await expect(card(page).getByRole('alert')).toContainText('is not a port; write the device, a slash and the port')
    await card(page).getByRole('textbox', { name: 'Other end' }).fill('PP1/20')
    await page.keyboard.press('Enter')
    await expect(strip(page, /^core 3, PP1 20; goes no further/)).toBeVisible()
    await page.keyboard.press('Control+z')
    await expect(strip(page, /^core 3, PP1 3, Loft plate 1, loft ap 1/)).toBeVisible()
  })

  test('a port is named, reserved for something, and found to be broken, where it is picked', async ({ page }) => {
    await jack(page, 'core/23').click()
    const fill = async (label: string, text: string) => {
      await card(page)
        .getByRole('button', { name: new RegExp(`^${label}: `) })
        .click()
      await card(page).getByRole('textbox', { name: label }).fill(text)
      await page.keyboard.press('Enter')
      await expect(card(page).getByRole('button', { name: `${label}: ${text || 'none'}, edit` })).toBeVisible()
    }
    await fill('Name', 'shed')
    await fill('Reserved for', 'the camera at the gate')
    await expect(jack(page, 'core/23')).toHaveAccessibleName('core 23, shed: reserved for the camera at the gate')
    await fill('Name', '')
    // And where its neighbour's lead goes along.
    await jack(page, 'core/3').click()
    await card(page).getByRole('button', { name: 'Way: unknown, edit' }).click()
    await page.getByRole('option', { name: 'in hall ceiling' }).click()
    await expect(card(page).getByRole('button', { name: 'Way: in hall ceiling, edit' })).toBeVisible()
    await card(page).getByRole('button', { name: 'Way: in hall ceiling, edit' }).click()
    await page.getByRole('option', { name: 'through the left side' }).click()
    await expect(card(page).getByRole('button', { name: 'Way: through the left side, edit' })).toBeVisible()
    for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click()
    await expect(card(page).getByRole('button', { name: 'Way: unknown, edit' })).toBeVisible()
    await jack(page, 'core/23').click()
    await card(page).getByRole('button', { name: 'Condition: in order, edit' }).click()
    await page.getByRole('option', { name: 'broken' }).click()
    await expect(jack(page, 'core/23')).toHaveAccessibleName('core 23: broken')
    await expect(page.getByRole('img', { name: /^Ports: 28 of 34/ })).toHaveAttribute('title', /2 reserved or broken/)
    for (let i = 0; i < 4; i++) await page.getByRole('button', { name: 'Undo' }).click()
    await expect(jack(page, 'core/23')).toHaveAccessibleName('core 23: free')
  })

  test('all faces show the trail that is lit, and the keyboard goes from port to port', async ({ page }) => {
    await view(page, 'All faces')
    await expect(page.getByText(/^Pantry · \d+ of \d+ can be removed alone/)).toBeVisible()
    await jack(page, 'core/3').focus()
    await expect(jack(page, 'PP1/3')).toHaveClass(/lit/)
    await page.keyboard.press('ArrowRight')
    await expect(jack(page, 'core/4')).toBeFocused()
    await expect(jack(page, 'PP1/4')).toHaveClass(/lit/)
    await page.keyboard.press('Enter')
    await expect(card(page).getByRole('heading', { name: 'core 4' })).toBeVisible()
    // Unplugged and connected again without a pointer; the device stays where it is.
    await page.keyboard.press('Delete')
    await expect(jack(page, 'PP1/4')).toHaveAccessibleName('PP1 4: free')
    await page.keyboard.press('c')
    await expect(page.getByText('Connecting a cable from core 4')).toBeVisible()
    await jack(page, 'PP1/4').focus()
    await page.keyboard.press('Enter')
    await expect(jack(page, 'core/4')).toHaveAccessibleName('core 4: to PP1/4')
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
    await expect(page.getByText('7 of 7 to unplug')).toBeVisible()
    const steps = page.getByRole('checkbox')
    for (let i = 0; i < 7; i++) await steps.nth(i).check()
    await expect(page.getByText('Everything is out.')).toBeVisible()
    await page.reload()
    await expect(page.getByText('Everything is out.')).toBeVisible()
    await page.getByRole('button', { name: 'Put it back' }).click()
    await expect(page.getByText('7 of 7 to plug in')).toBeVisible()
    await expect(
      page
        .getByRole('listitem')
        .filter({ has: page.getByRole('checkbox') })
        .first(),
    ).toContainText('in2')
    await steps.first().check()
    await expect(page.getByText('6 of 7 to plug in')).toBeVisible()
  })

  test('a cable is plugged in where one stands', async ({ page, lab }) => {
    await page.goto(new URL('/cabling', lab.url).href)
    await jack(page, 'core/22').tap()
    await card(page).getByRole('button', { name: 'Connect a cable' }).tap()
    await expect(page.getByText('Connecting a cable from core 22: pick its other end.')).toBeVisible()
    await page
      .getByRole('navigation', { name: /^Tabs of/ })
      .getByRole('link', { name: 'All faces' })
      .tap()
    await jack(page, 'gate/3').tap()
    await expect(card(page).getByRole('button', { name: 'Other end: gate/3' })).toBeVisible()
    for (const button of await card(page).getByRole('button').all())
      expect((await button.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(24)
    expect((await card(page).getByRole('button', { name: 'Unplug' }).boundingBox())?.height).toBeGreaterThanOrEqual(44)
  })

  test('from its card a device is taken out', async ({ page, lab }) => {
    await page.goto(new URL('/rack', lab.url).href)
    await onStaff(page, 'anvil').tap()
    await card(page).getByRole('button', { name: 'Take it out' }).tap()
    await expect(page.getByRole('heading', { name: 'Take out anvil' })).toBeVisible()
    await expect(page.getByRole('button', { name: 'Close the card' })).toBeHidden()
  })
})
