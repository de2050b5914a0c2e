// Services: a guest is dropped on a host without room and one reads why, a host is taken
// away, and what runs is the same for keyboard, phone and screen reader.
import { cardOf, expect, quick, serious, test, type } from '../fixtures'

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('a guest is dropped on a host without room, and one reads why', async ({ page, lab }) => {
    await page.goto(new URL('/services', lab.url).href)
    const thrush = page.getByRole('region', { name: /^thrush/ })
    const games = page.getByRole('button', { name: /^games, VM/ })
    await expect(page.getByRole('region', { name: /^anvil/ }).getByRole('button', { name: /^games, VM/ })).toBeVisible()
    await games.dragTo(thrush)
    const ask = page.getByRole('alertdialog', { name: 'games to thrush' })
    await expect(ask).toContainText('takes 12 GB, and thrush has 512 MB left')
    await ask.getByRole('button', { name: 'Leave it' }).click()
    await expect(ask).toBeHidden()
    await expect(thrush.getByRole('button', { name: /^games/ })).toBeHidden()

    await games.dragTo(thrush)
    await ask.getByRole('button', { name: 'Move it anyway' }).click()
    await expect(thrush.getByRole('button', { name: /^games, VM/ })).toBeVisible()
    await expect(thrush).toContainText('11.5 GB more than fitted')
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(thrush.getByRole('button', { name: /^games/ })).toBeHidden()
  })

  test('a host is taken away, and what stays dark says why', async ({ page, lab }) => {
    await page.goto(new URL('/services/room', lab.url).href)
    await page.getByLabel('The host that is gone').selectOption('anvil')
    await expect(page.getByRole('row', { name: /^names 1/ })).toContainText('thrush')
    await expect(page.getByRole('row', { name: /^names 1/ })).toContainText('by itself')
    await expect(page.getByRole('row', { name: /^choir/ })).toContainText('the disk of choir is on vault, which is in anvil')
    await expect(page.getByRole('row', { name: /^trial router/ })).toContainText('trial router has slot 2 of anvil')
    await expect(page.getByText('1 of 8 start elsewhere', { exact: true })).toBeVisible()
    await page.getByLabel('on purpose').check()
    await expect(page.getByRole('row', { name: /^choir/ })).toContainText('has 8 vCPUs, and thrush 4 cores')
    const fits = page.getByRole('list', { name: 'Where it would fit' }).getByRole('listitem')
    await page.getByLabel('Memory, GB').fill('4')
    await expect(fits.filter({ hasText: /^anvil/ })).toContainText('3 fit')
    await expect(fits.filter({ hasText: /^finch/ })).toContainText('?')
    await page.getByLabel('While a host is gone').selectOption({ label: 'anvil is gone' })
    await expect(fits.filter({ hasText: /^thrush/ })).toContainText('none fits')
  })

  test('the card of a UPS says what stops without it, on every layer, and why', async ({ page, lab }) => {
    await page.goto(new URL('/rack', lab.url).href)
    await page.getByRole('navigation', { name: 'Staff' }).getByRole('button', { name: /^keep/ }).click()
    const card = cardOf(page)
    await expect(card).toContainText("Without keep: 15 services (9 of the household's), 21 guests, 10 devices and 4 pools stop")
    await expect(card).toContainText('Noticed by everyone, the choir, the cousins, the neighbours.')
    await card.getByRole('button', { name: 'What, and why' }).click()
    const stops = card.getByRole('region', { name: 'Stops' }).getByRole('listitem')
    await expect(stops.filter({ hasText: 'choir library' }).first()).toContainText('way in is routed by gate; gate is fed by keep')
    await expect(stops.filter({ hasText: 'films' }).first()).toContainText('film shelf runs on silo; silo is fed by keep')
    await expect(card.getByRole('region', { name: 'Cut off' })).toContainText('dome switch')
    await stops.getByRole('button', { name: 'printing', exact: true }).click()
    await expect(page).toHaveURL(/\/services\/all\?service=/)
    await expect(cardOf(page)).toContainText('Without printing: nothing else stops.')

    // What a person says of it counts too, and can be taken back.
    await type(page, '"choir library" needs "printing"')
    await expect(cardOf(page)).toContainText("Without printing: 1 service (1 of the household's) stops.")
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(cardOf(page)).toContainText('Without printing: nothing else stops.')
    expect(await serious(page)).toEqual([])
  })

  test('a lead, a breaker and a line outside say what stops without them', async ({ page, lab }) => {
    await page.goto(new URL('/cabling', lab.url).href)
    await page.getByRole('button', { name: /^core/ }).first().click()
    await page.locator('[data-jack="core/14"]').click()
    await expect(cardOf(page)).toContainText("Without core/14 - anvil/1: 9 services (6 of the household's) and 11 guests stop.")
    await cardOf(page).getByRole('button', { name: 'What, and why' }).click()
    await expect(cardOf(page).getByRole('region', { name: 'Stops' })).toContainText('gets to its gateway over core/14 - anvil/1')
    await page.goto(new URL('/networks/outside', lab.url).href)
    await expect(page.getByText('Without mobile line: nothing else stops; front door and parents go on with less.')).toBeVisible()
    await page.goto(new URL('/power', lab.url).href)
    await page.getByRole('button', { name: /^kitchen 4, circuit/ }).press('Enter')
    await expect(cardOf(page)).toContainText('Without kitchen 4: 5 services')
  })

  test('what does most harm comes first, and a lab that would not start again says where to cut', async ({ page, lab }) => {
    await page.goto(new URL('/services/gone', lab.url).href)
    const circles = page.getByRole('list', { name: 'What waits for itself' })
    await expect(circles).toContainText('It does not start: keys needs mail archive, and mail archive needs keys.')
    await expect(page.getByText('1 circle keeps it from starting')).toBeVisible()
    await type(page, '"keys" wants "mail archive"')
    await expect(page.getByText('Nothing waits for itself: everything starts again.')).toBeVisible()
    const losses = page.getByRole('region', { name: 'Losses' })
    await expect(losses.getByRole('row').nth(1)).toContainText('keep')
    await expect(page.getByRole('region', { name: 'Without keep' })).toContainText('choir is routed by gate; gate is fed by keep')
    await expect(page.getByRole('region', { name: 'Without keep' })).toContainText('Nothing answers for names in')

    // A breaker takes power, links, what runs and what is stored.
    await losses.getByRole('button', { name: 'kitchen 4', exact: true }).click()
    const without = page.getByRole('region', { name: 'Without kitchen 4' })
    await expect(without.getByRole('region', { name: 'Stops' }).getByRole('listitem').filter({ hasText: 'thrush' }).first()).toContainText(
      'loft wall is fed by kitchen 4',
    )
    await page.getByLabel('with every outlet, lead and drive').check()
    await expect(losses.getByRole('button', { name: 'keep/out2', exact: true })).toBeVisible()

    // Two that need each other start no more once all is dark; the need that is only wanted opens it.
    await type(page, '"names 1" needs "names 2"')
    await type(page, '"names 2" needs "names 1"')
    await expect(circles).toContainText('It does not start: names 1 needs names 2, and names 2 needs names 1.')
    await expect(circles).toContainText('let names 1 start without names 2')
    await expect(circles).toContainText('Never starts: ')
    await type(page, '"names 1" wants "names 2"')
    await expect(page.getByText('Nothing waits for itself: everything starts again.')).toBeVisible()
    const order = page.getByRole('list', { name: 'Start order' }).getByRole('button', { name: /^names [12]$/ })
    await expect(order).toHaveText(['names 1', 'names 2'])
    expect(await serious(page)).toEqual([])
  })

  test('why visitors do not get to the library is found, and put right', async ({ page, lab }) => {
    await page.goto(new URL('/services/there', lab.url).href)
    const steps = page.getByRole('list', { name: 'Way of the request' }).getByRole('listitem')
    await expect(steps).toHaveText([/Quarry guests/, /gate/, /stopped before.*way in/])
    await expect(page.getByText('A rule lets guests reach nothing of servers.')).toBeVisible()
    const table = page.getByRole('region', { name: 'What is reached from where' })
    await expect(table.getByRole('button', { name: 'night builds from internet: reached without a sign-in' })).toBeVisible()
    await page.getByRole('button', { name: 'Write it down' }).click()
    await expect(steps).toHaveText([/Quarry guests/, /gate/, /way in/, /library/, /choir library/])
    await expect(page.getByText('It arrives, behind a sign-in.')).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(page.getByText('A rule lets guests reach nothing of servers.')).toBeVisible()

    // From a desk the cables of a hop are one click away.
    await page.getByRole('combobox', { name: 'From' }).click()
    await page.getByRole('combobox', { name: 'From' }).fill('anvil')
    await page.keyboard.press('Enter')
    await expect(page.getByText('It arrives, behind a sign-in.')).toBeVisible()
    await steps
      .filter({ hasText: 'finch' })
      .getByRole('button', { name: /cables/ })
      .click()
    await expect(page).toHaveURL(/\/networks\/ways$/)
    await expect(page.getByRole('list', { name: 'Way' }).getByRole('listitem').last()).toContainText('finch')
    await page.goBack()

    // A cell says how it is reached, and shows the way.
    await table.getByRole('button', { name: /^films from internet: not reached/ }).click()
    await expect(page.getByText('films.quarry.home.arpa is a name of this house, and means nothing outside.')).toBeVisible()
    await type(page, 'films.quarry.home.arpa -> "way in" -> "film shelf":8097')
    await table.getByRole('button', { name: /^films from house/ }).click()
    await expect(page.getByText('Nothing in film shelf listens on 8097.')).toBeVisible()
    await expect(page.getByText('Lead there by another port: films on tcp 8096.')).toBeVisible()
    expect(await serious(page)).toEqual([])
  })

  test('what needs what is drawn, a stack as one thing until it is opened', async ({ page, lab }) => {
    await page.goto(new URL('/services/needs', lab.url).href)
    const drawn = page.getByRole('region', { name: 'What needs what' })
    await expect(drawn.getByRole('button', { name: 'music, stack of 6, open it, household' })).toBeVisible()
    await expect(drawn.getByRole('button', { name: 'library, guest' })).toBeHidden()
    await drawn.getByRole('button', { name: 'way in, guest, household' }).press('Enter')
    const said = page.getByRole('list', { name: 'In words' })
    await expect(said).toContainText('way in runs on anvil')
    await expect(said).toContainText('pictures of the house is reached through way in')
    await page.getByLabel('music as one').uncheck()
    await expect(drawn.getByRole('button', { name: /^library, guest/ })).toBeVisible()
    await drawn.getByRole('button', { name: /^choir library, service/ }).press('Enter')
    await expect(said).toContainText('choir library needs data base')
    await expect(said).toContainText('choir library wants mail out, and goes on without')
    expect(await serious(page)).toEqual([])
  })

  test('a guest is moved by its card, and found by what it is for', async ({ page, lab }) => {
    await page.goto(new URL('/services', lab.url).href)
    await page.getByRole('button', { name: /^weather, VM/ }).click()
    const card = cardOf(page)
    await expect(card).toContainText('thrush')
    await expect(card).toContainText('2 vCPUs, 1 GB')
    await card.getByRole('button', { name: 'Move to another host' }).click()
    await expect(card.getByRole('listitem').filter({ hasText: 'silo' })).toContainText('runs containers and no VMs')
    await card.getByRole('button', { name: 'anvil', exact: true }).click()
    await expect(page.getByRole('region', { name: /^anvil/ }).getByRole('button', { name: /^weather, VM/ })).toBeVisible()
    await page.getByRole('button', { name: /^choir, VM/ }).click()
    await expect(card).toContainText('choir disk has no copy')
    await expect(card).toContainText(/\d+ W, by its memory/)
  })

  test('all that runs is listed, filtered and edited as the gear is', async ({ page, lab }) => {
    await page.goto(new URL('/services/all', lab.url).href)
    const grid = page.getByRole('grid', { name: 'VMs and containers' })
    await expect(grid.getByRole('row', { name: /choir/ }).first()).toContainText('24 GB')
    await page.getByLabel('Filter').fill('host:thrush')
    await expect(page.getByText(/^4 of \d+ guests$/)).toBeVisible()
    await page.getByRole('group', { name: 'What is listed' }).getByRole('button', { name: 'Services' }).click()
    await expect(page.getByRole('grid', { name: 'Services' })).toContainText('choir library')
    await page.goto(new URL('/gear', lab.url).href)
    await page.getByLabel('Filter').fill('choir')
    await expect(page.getByRole('grid', { name: 'Gear' })).not.toContainText('VM')
  })

  test('the sheet is sound for a screen reader, light and dark', async ({ page, lab }) => {
    for (const path of ['', '/room', '/there', '/all']) {
      await page.goto(new URL(`/services${path}`, lab.url).href)
      await expect(page.locator('.paper-view section, [role=grid]').first()).toBeVisible()
      for (const colorScheme of ['light', 'dark'] as const) {
        await page.emulateMedia({ colorScheme })
        expect(await serious(page)).toEqual([])
      }
    }
  })
})

test('what runs is typed line by line, and stands on its host', async ({ page, lab }) => {
  await page.goto(new URL('/services', lab.url).href)
  await expect(page.getByText('Nothing is said to run anywhere yet.')).toBeVisible()
  for (const line of [
    'server "anvil": 32GB, 16 cores, runs hypervisor "Cairn" 9.1 until 2027-06, keeps 6GB',
    'on anvil: vm "choir": 8 vcpu, 24GB, uses 14GB, household, for "34 singers"',
    'on choir: container "library": 2GB, port 8080',
    'on anvil: vm "trial": 8GB, toy, stopped',
  ])
    await type(page, line)
  const anvil = page.getByRole('region', { name: /^anvil/ })
  await expect(anvil).toContainText('30 of 32 GB')
  await expect(anvil).toContainText('2 GB left')
  await expect(anvil.getByRole('button', { name: /^trial/ })).toContainText('resting')
  await quick(page).fill('on choir: vm "choir"')
  await quick(page).press('Enter')
  await expect(page.getByText(/choir/).first()).toBeVisible()
  await expect(anvil.getByRole('button', { name: /^choir, VM/ })).toBeVisible()
})

test('a guest is dragged where there is room, and moved back by a key', async ({ page, lab }) => {
  for (const line of [
    'server "anvil": 32GB, runs hypervisor',
    'server "thrush": 64GB, runs hypervisor',
    'on anvil: vm "choir": 24GB',
    'service "songs": in choir, tcp 443, https',
  ])
    await type(page, line)
  await page.goto(new URL('/services', lab.url).href)
  const thrush = page.getByRole('region', { name: /^thrush/ })
  await page.getByRole('button', { name: /^choir, VM/ }).dragTo(thrush)
  await expect(thrush.getByRole('button', { name: /^choir, VM/ })).toBeVisible()
  await expect(page.getByRole('alertdialog')).toBeHidden()
  await expect(thrush).toContainText('40 GB left')
  await page.keyboard.press('Control+z')
  await expect(thrush.getByRole('button', { name: /^choir, VM/ })).toBeHidden()

  await page
    .getByRole('region', { name: /^anvil/ })
    .getByRole('button', { name: /^anvil/ })
    .click()
  const card = cardOf(page)
  await expect(card).toContainText('What runs on it')
  await expect(card).toContainText('24 GB given of 32 GB')
})

test.describe('on a phone', () => {
  test.use({ demo: true, viewport: { width: 390, height: 844 } })

  test('what runs on a host is a list that a thumb can use', async ({ page, lab }) => {
    await page.goto(new URL('/services', lab.url).href)
    const choir = page.getByRole('button', { name: /^choir, VM/ })
    await expect(choir).toBeVisible()
    expect((await choir.boundingBox())!.height).toBeGreaterThanOrEqual(44)
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
    await choir.click()
    await expect(cardOf(page)).toContainText('34 singers')
  })
  test('what needs what is a list, and what is picked says its needs below it', async ({ page, lab }) => {
    await page.goto(new URL('/services/needs', lab.url).href)
    const list = page.getByRole('list', { name: 'What needs what' })
    const lights = list.getByRole('button', { name: 'lights of the house service household' })
    expect((await lights.boundingBox())!.height).toBeGreaterThanOrEqual(44)
    await lights.click()
    await expect(lights).toHaveAttribute('aria-expanded', 'true')
    await expect(list.getByRole('list', { name: 'In words' })).toContainText('lights of the house is reached through way in')
    await list.getByRole('button', { name: 'music 6 as one household' }).click()
    await expect(list.getByRole('button', { name: /^choir library/ })).toBeVisible()
    expect(await serious(page)).toEqual([])
  })
})
