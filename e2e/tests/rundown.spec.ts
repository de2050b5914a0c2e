import { cardOf, drag, drawn, expect, lookFor, onStaff, quarry, test, unitPoint } from '../fixtures'

const told = [
  'PP1, patch panel, 24',
  'core, switch, 23',
  'brush panel, brush panel, 22',
  'gate, router, 21',
  'console, KVM switch, 18',
  'leads, drawer, 16-17',
  'sbc shelf, shelf, 14-15',
  'anvil, server, 12-13',
  'silo, NAS, 9-11',
  'ember, server, 6',
  'strip B, power strip, 5',
  'keep, UPS, 1-2',
]

test('a rack is typed from top to bottom, edited by hand, and is there after a restart', async ({ page, lab }) => {
  await page.getByRole('link', { name: 'rundown page' }).click()
  await page.getByRole('textbox', { name: 'Rundown' }).click()
  await page.keyboard.insertText(quarry)
  await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()
  await expect(page.getByText('6U free, the largest piece 2U')).toBeVisible()
  await page.getByRole('button', { name: 'Apply' }).click()
  await expect(page.getByText('The text matches the lab.')).toBeVisible()

  await page.getByRole('link', { name: 'Rack', exact: false }).first().click()
  for (const what of told) await expect(drawn(page, what)).toBeVisible()
  for (const name of ['finch', 'wren', 'lamp bridge', 'tower', 'pantry ap']) await expect(onStaff(page, name)).toBeVisible()
  await expect(page.getByRole('region', { name: 'Not placed yet' }).getByRole('button', { name: 'old core' })).toBeVisible()
  await expect(page.getByText('6U free in 3 pieces, the largest 2U')).toBeVisible()
  await expect(page.getByRole('img', { name: /^Space: 18 of 24 U/ })).toBeVisible()
  await expect(page.getByRole('img', { name: /^Weight: at least 59.1 of 300 kg/ })).toBeVisible()

  // anvil goes to 19-20, between gate and the console.
  await drag(page, drawn(page, 'anvil, server, 12-13'), await unitPoint(page, 'gate, router, 21', 'console, KVM switch, 18', 0.5))
  await expect(drawn(page, 'anvil, server, 19-20')).toBeVisible()

  // Onto silo it may not: it says so while it is held and stays when let go.
  const silo = (await drawn(page, 'silo, NAS, 9-11').boundingBox())!
  await drag(page, drawn(page, 'anvil, server, 19-20'), { x: silo.x + 60, y: silo.y + silo.height / 2 }, false)
  await expect(page.locator('[data-target]')).toHaveAttribute('data-fits', 'false')
  await expect(page.locator('[data-target]')).toContainText('silo takes 9-11')
  await page.mouse.up()
  await expect(page.getByRole('status')).toHaveText('anvil stays where it was: silo takes 9-11.')
  await expect(drawn(page, 'anvil, server, 19-20')).toBeVisible()

  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()

  await lab.stop()
  await lab.start()
  await page.goto(lab.url)
  for (const what of told) await expect(drawn(page, what)).toBeVisible()
  await page.getByRole('button', { name: 'Redo' }).click()
  await expect(drawn(page, 'anvil, server, 19-20')).toBeVisible()
})

test.describe('an edited text', () => {
  test.use({ demo: true })

  test('says what it would do, marks a mistake where it is, and loads the lines around it', async ({ page }) => {
    await page.getByRole('link', { name: /Rundown/ }).click()
    const text = page.getByRole('textbox', { name: 'Rundown' })
    await text.click()
    await lookFor(page, '22      brush panel')
    await page.keyboard.insertText('\n19 swich "attic"\n20 server "big", 4kg')
    const would = page.getByRole('region', { name: 'What applying the text would do' })
    await expect(would).toContainText('swich: did you mean switch?')
    await expect(would).toContainText('server "big" added at Pantry 20')
    await expect(page.locator('.cm-lintRange-error')).toHaveText('swich')
    await page.getByRole('button', { name: 'Apply the lines without mistakes' }).click()
    await expect(would).not.toContainText('big')

    // Mended, the rest of it is done too; a line taken out is a thing removed.
    await would.getByRole('button', { name: 'swich: did you mean' }).click()
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
    await page.keyboard.insertText('t')
    await lookFor(page, 'kvm switch "console"')
    await page.keyboard.press('Control+Shift+K') // takes the line out
    await expect(would.getByText('this is a fact, and no line above goes on with it').first()).toBeVisible()
    for (let i = 0; i < 2; i++) await page.keyboard.press('Control+Shift+K') // and those it went on in
    await expect(would).toContainText('switch "attic" added at Pantry 19')
    await expect(would).toContainText('kvm switch "console" removed')
    await page.getByRole('button', { name: 'Apply', exact: true }).click()
    await expect(page.getByText('The text matches the lab.')).toBeVisible()
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: /Rack/ }).first().click()
    await expect(drawn(page, 'attic, switch, 19')).toBeVisible()
    await expect(drawn(page, 'console, KVM switch, 18')).toHaveCount(0)
  })
})

test('what is said in unusual words is kept, shown before it is applied, and found', async ({ page }) => {
  await page.getByRole('link', { name: 'rundown page' }).click()
  await page.getByRole('textbox', { name: 'Rundown' }).click()
  await page.keyboard.insertText(
    'rack "Hall": 6U, lids off when it runs\n5 air conditioner "chill": not bolted, 4kg\n1 ups "keep": 1500VA, 35 min\n',
  )
  const would = page.getByRole('region', { name: 'What applying the text would do' })
  await expect(would).toContainText('kept as a remark: “lids off when it runs”')
  await expect(would).toContainText('air conditioner "chill" added at Hall 5')
  await page.getByRole('button', { name: 'Apply', exact: true }).click()
  await expect(page.getByText('The text matches the lab.')).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: /Rack/ }).first().click()
  await expect(drawn(page, 'chill, air conditioner, 5')).toBeVisible()
  await onStaff(page, 'chill').click()
  await expect(cardOf(page).getByRole('button', { name: 'Remarks: not bolted, edit' })).toBeVisible()
  await page.keyboard.press('/')
  await page.keyboard.type('bolted')
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('chill')
})

test('a text that is not applied is there again after other sheets and a reload, and undoes nothing of others', async ({ page, lab }) => {
  await page.keyboard.press('.')
  await page.keyboard.type('rack "Hall": 12U')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Hall' }).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.keyboard.press('0')
  const text = page.getByRole('textbox', { name: 'Rundown' })
  const would = page.getByRole('region', { name: 'What applying the text would do' })
  await text.click()
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('\n3 server "mine", 4kg\n5 swich "half')
  await expect(would).toContainText('line 5')
  // The first Escape may be for what is offered.
  await expect(async () => {
    await page.keyboard.press('Escape')
    await expect(text).not.toBeFocused({ timeout: 500 })
  }).toPass()
  await page.keyboard.press('1')
  await expect(page.getByText('The text is kept on the Rundown sheet; it is not applied yet.')).toBeVisible()

  // Meanwhile somebody else adds a server.
  const there = await page.request.post(`${lab.url}/api/v1/devices`, { data: { name: 'theirs', device_kind: 'server' } })
  expect(there.status()).toBe(201)
  await page.goto(`${lab.url}/rundown`)
  await expect(text).toContainText('5 swich "half')
  await expect(page.getByText(/^typed .*, not applied yet$/)).toBeVisible()
  await expect(would).toContainText('meanwhile, and kept: server "theirs" added')
  await expect(would).not.toContainText('removed')

  await text.click()
  await page.keyboard.press('Control+End')
  for (let i = 0; i < '5 swich "half'.length; i++) await page.keyboard.press('Backspace')
  await page.keyboard.press('Control+Enter')
  await expect(page.getByText('The text matches the lab.')).toBeVisible()
  await expect(text).toContainText('"theirs"')
  await page.reload()
  await expect(page.getByText('The text matches the lab.')).toBeVisible()
  await expect(text).toContainText('"mine"')
})

test('what is typed while the text is fetched stays', async ({ page, lab }) => {
  let release = () => {}
  const held = new Promise<void>((done) => (release = done))
  await page.keyboard.press('0')
  const text = page.getByRole('textbox', { name: 'Rundown' })
  await expect(text).toBeVisible()
  await page.route('**/api/v1/rundown', async (route) => {
    await held
    await route.continue()
  })
  const fetched = page.waitForRequest('**/api/v1/rundown')
  await lab.post('/api/v1/devices', { name: 'theirs', device_kind: 'server' })
  await fetched
  await text.click()
  await page.keyboard.press('Control+End')
  await page.keyboard.insertText('server "mine"\n')
  const answered = page.waitForResponse('**/api/v1/rundown')
  release()
  await answered
  const would = page.getByRole('region', { name: 'What applying the text would do' })
  await expect(would).toContainText('meanwhile, and kept: server "theirs" added')
  await expect(text).toContainText('server "mine"')
})

test('the editor offers what the quick line offers', async ({ page }) => {
  await page.getByRole('link', { name: 'rundown page' }).click()
  await page.getByRole('textbox', { name: 'Rundown' }).click()
  await page.keyboard.insertText('rack "Hall": 12U\n')
  await page.keyboard.type('3 serv')
  await expect(page.getByRole('listbox', { name: 'Completions' }).getByRole('option')).toHaveText(['server'])
  await page.keyboard.press('Tab')
  await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('3 server')

  // A fact may stand in the next line.
  await page.keyboard.type('"anvil": 24kg,')
  await page.keyboard.press('Enter')
  await page.keyboard.type('  seri')
  await expect(page.getByRole('listbox', { name: 'Completions' }).getByRole('option')).toHaveText([/^serial/])
  await page.keyboard.press('Tab')
  await expect(page.getByRole('textbox', { name: 'Rundown' })).toContainText('  serial')
})
