// Storage: a pool is made by dragging over bays, what is lost with the house is said, and
// what is looked at is the same for keyboard, phone and screen reader.
import { cardOf, expect, onStaff, quick, serious, test, type } from '../fixtures'

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('what is lost with the house is said, and a copy out of it helps', async ({ page, lab }) => {
    await page.goto(new URL('/storage/copies', lab.url).href)
    const letters = page.getByRole('row', { name: /^letters/ })
    await expect(page.getByRole('button', { name: 'the house', exact: true })).toHaveAttribute('aria-pressed', 'true')
    await expect(letters).toContainText('all of it')
    await expect(page.getByRole('row', { name: /^choir scores/ })).toContainText(/\d+ days/)
    await type(page, 'copy of letters to "Aunt\'s attic": weekly, last 2026-11-25')
    await expect(letters).not.toContainText('all of it')
    await expect(letters).toContainText('one short of three')
    await page.getByRole('button', { name: 'its device', exact: true }).click()
    await expect(page.getByRole('row', { name: /^cameras/ })).toContainText('all of it')
    await page.getByLabel('One thing that goes').selectOption({ label: 'silo/hold' })
    await expect(page.getByRole('row', { name: /^sky archive/ })).toContainText('all of it')
    await expect(letters).toContainText('nothing')
    const plan = await page.request.get(new URL('/api/v1/files/restore_plan.md', lab.url).href)
    expect(await plan.text()).toContain('## letters')
  })

  test('a pool is picked from its bays, and its card says what it comes to', async ({ page, lab }) => {
    await page.goto(new URL('/storage', lab.url).href)
    await page.getByRole('button', { name: 'Bay 3: hold, 12 TB' }).click()
    const card = cardOf(page)
    await expect(card).toContainText('44 TB = 40 TiB')
    await expect(card).toContainText('any one drive may fail')
    await expect(card).toContainText('hold is 85 % full')
    await expect(card).toContainText('Data that goes with it')
    await card.getByRole('button', { name: 'All storage' }).click()
    await expect(card).toContainText('letters, which the household lives with, has no copy.')
    await onStaff(page, 'silo').click()
    await expect(page.getByRole('region', { name: 'Bays of silo' })).toBeVisible()
    await expect(page.getByRole('region', { name: 'Bays of anvil' })).toBeHidden()
    await expect(card).toContainText('mixed sizes of 2 x 4 TB and 4 x 12 TB; any one drive may fail')
    await page.getByRole('link', { name: "What's on them" }).click()
    await expect(page.getByRole('row', { name: /^guests/ })).toContainText('VLAN 20')
    await expect(page.getByRole('row', { name: /^cameras/ })).toContainText('days of film')
  })

  test('the sheet is sound for a screen reader, light and dark', async ({ page, lab }) => {
    for (const path of ['', '/data', '/copies']) {
      await page.goto(new URL(`/storage${path}`, lab.url).href)
      await expect(page.locator('.paper-view section, .paper-view table').first()).toBeVisible()
      for (const colorScheme of ['light', 'dark'] as const) {
        await page.emulateMedia({ colorScheme })
        expect(await serious(page)).toEqual([])
      }
    }
  })
})

test('a pool is made by dragging over bays', async ({ page, lab }) => {
  for (const line of ['rack "Pantry": 24U', '16 nas "silo": 8 bays, 4x 8TB hdd']) await type(page, line)
  await page.goto(new URL('/storage', lab.url).href)
  await expect(page.getByText('No pool is documented yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Bay 1: in no pool, 8 TB' }).hover()
  await page.mouse.down()
  await page.getByRole('button', { name: 'Bay 3: in no pool, 8 TB' }).hover()
  await page.mouse.up()
  const form = page.getByRole('form', { name: 'A new pool' })
  await expect(form).toContainText('bay 1-3 of silo')
  await expect(form.getByRole('radio', { name: /RAID-Z1 16 TB = 14.6 TiB any one drive may fail/ })).toBeChecked()
  await page.getByRole('button', { name: 'Bay 4: in no pool, 8 TB' }).press('Space')
  await form.getByRole('radio', { name: /RAID 10/ }).check()
  await form.getByRole('button', { name: 'Make the pool' }).click()
  await expect(form.getByRole('alert')).toContainText('Give it a name')
  await form.getByRole('textbox', { name: 'Name of the pool' }).fill('hold')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'hold' })).toContainText('usable 16 TB = 14.6 TiB')
  await expect(page.getByRole('region', { name: 'hold' })).toContainText('any one drive may fail; two if they are in different pairs')
  await page.keyboard.press('Control+z')
  await expect(page.getByText('No pool is documented yet.')).toBeVisible()
  await quick(page).fill('pool "hold" on silo: raid 5 of bay 1-2')
  await expect(page.getByText('raid 5 needs at least 3 drives, not 2')).toBeVisible()
})

test('what is stored is typed as it is spoken, and kept', async ({ page, lab }) => {
  for (const line of [
    'rack "Pantry": 24U',
    '16 nas "crock": 8 bays, 4x 10TB hdd',
    '14 nas "creel": 2 bays, 2x 6TB smr',
    'place "Sister\'s", outside the house',
    'pool "big" on crock: four 10TB as raid-z2',
    'pool on creel: mirror',
    'dataset "shop" on big: 4TB, household, 90GB a month',
    'copy of shop to creel: every night',
    "copy of shop from creel to my sister's: once a week, never restored",
  ])
    await type(page, line)
  await page.goto(new URL('/storage', lab.url).href)
  await expect(page.getByRole('region', { name: 'big' })).toContainText('any two drives may fail')
  await expect(page.getByRole('region', { name: 'creel', exact: true })).toContainText('usable 6 TB = 5.46 TiB')
  const creel = page.getByRole('region', { name: 'creel', exact: true })
  await creel.getByRole('button', { name: 'creel' }).click()
  const card = cardOf(page)
  await expect(card).toContainText('2 drives are shingled')
  await expect(card).toContainText('4 TB, 2 TB free')
  await card.getByRole('button', { name: /^Sets: mirror of bay 1-2/ }).click()
  await page.getByRole('textbox', { name: 'Sets' }).fill('stripe of bay 1-2')
  await page.keyboard.press('Enter')
  await expect(creel).toContainText('usable 12 TB')
  await expect(creel).toContainText('no drive may fail')
  await page.keyboard.press('Control+z')
  await expect(creel).toContainText('usable 6 TB')
  await page.goto(new URL('/storage/copies', lab.url).href)
  const shop = page.getByRole('row', { name: /^shop/ })
  await expect(shop).toContainText('at most 8 days')
  await expect(shop).toContainText('three copies, one out')
  await shop.getByRole('button', { name: /^Sister's, made of the copy on creel\/creel, weekly/ }).click()
  await expect(card).toContainText('weekly')
  await page.getByRole('link', { name: 'Logbook' }).click()
  await expect(page.locator('[data-entry]').filter({ hasText: 'shop to Sister' })).toHaveCount(1)
})

test.describe('beside the rack', () => {
  test.use({ demo: true })

  test('through the lens of pools the elevation says how full they are', async ({ page }) => {
    await page.getByRole('combobox', { name: 'Lens' }).selectOption('pools')
    await expect(page.locator('g.device', { hasText: 'silo' }).first()).toContainText('hold 85 %')
    await expect(page.locator('g.device', { hasText: 'anvil' }).first()).toContainText('vault')
  })

  test('the card of a device has its pools, that of a drive what goes with it', async ({ page }) => {
    await onStaff(page, 'silo').click()
    const card = cardOf(page)
    await expect(card.getByRole('button', { name: /^hold 37.2 TB of 44 TB/ })).toBeVisible()
    await expect(card).toContainText('Data that goes with it')
    await card.getByRole('button', { name: 'Bay 5: 4TB hdd, sata' }).click()
    const part = page.getByRole('dialog', { name: 'A part' })
    await expect(part).toContainText('silo/tonight, stripe of 2 x 4 TB: no drive may fail')
    await expect(part).toContainText('frames')
    await part.getByRole('button', { name: 'Done' }).click()
    await card.getByRole('button', { name: /^tonight 5/ }).click()
    await expect(page).toHaveURL(/\/storage\?pool=/)
    await expect(card).toContainText('no drive may fail')
  })

  test('a table of copies is read, and its lines say what they change', async ({ page, lab }) => {
    await page.goto(new URL('/storage/copies', lab.url).href)
    await page.getByRole('button', { name: /^As built/ }).click()
    await page.getByText('Import and export').click()
    await page
      .getByRole('button', { name: /Choose a file|Import/ })
      .first()
      .or(page.locator('input[type=file]'))
      .last()
      .setInputFiles({
        name: 'copies.csv',
        mimeType: 'text/csv',
        buffer: Buffer.from("dataset,to,often\nletters,Aunt's attic,weekly\nletters,silo/hold,sometimes\n"),
      })
    const dialog = page.getByRole('dialog', { name: 'Import and export' })
    await expect(dialog.getByRole('combobox', { name: 'It lists' })).toHaveValue('copy_table')
    await expect(dialog).toContainText('“sometimes” does not say how often')
    await expect(dialog).toContainText('letters to silo/hold')
  })
})

test.describe('on a phone', () => {
  test.use({ demo: true, viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true })

  test('pools and copies are read with a thumb', async ({ page, lab }) => {
    await page.goto(new URL('/storage', lab.url).href)
    await page.getByRole('button', { name: 'Bay 5: tonight, 4 TB' }).tap()
    const card = cardOf(page)
    await expect(card).toContainText('stripe of 2 x 4 TB')
    await expect(card).toContainText('frames')
    await page.goto(new URL('/storage/copies', lab.url).href)
    await page.getByRole('button', { name: 'its device', exact: true }).tap()
    await expect(page.getByRole('row', { name: /^choir scores/ })).toContainText('h')
    const boxes = await page.locator('.paper-view button').evaluateAll((all) => all.map((b) => b.getBoundingClientRect().height))
    expect(Math.min(...boxes)).toBeGreaterThanOrEqual(44)
  })
})

test.describe('while it is planned', () => {
  test.use({ demo: true })

  test('a draft says what larger drives would change, and is left without a trace', async ({ page, lab }) => {
    await page.getByRole('button', { name: /^As built/ }).click()
    await page.getByText('Draft: Quiet ember').click()
    await type(page, '"silo" bay 10-12 drive: 12TB, hdd')
    await type(page, 'pool "hold" on silo: mixed of bay 1-4 + 7-8 + 10-12, one redundancy')
    await page.goto(new URL('/drafts', lab.url).href)
    const figures = page.getByRole('row', { name: /^Room in pools/ })
    await expect(figures).toContainText('≥ 83 TB')
    await expect(figures).toContainText('≥ 117 TB▲ +34')
    await expect(page.getByRole('row', { name: /^Drive bays filled/ })).toContainText('19 of 22')
    const built = await (await page.request.get(new URL('/api/v1/reports/pools', lab.url).href)).json()
    expect(built.pools.find((p: { name: string }) => p.name === 'hold').usable_bytes).toBe(44e12)
  })

  test('the keyboard alone picks bays, a layout and a name', async ({ page }) => {
    await type(page, '? nas "puffin": 4 bays, 3x 8TB hdd')
    await page.keyboard.press('Escape')
    await page.locator('body').press('6')
    await expect(page).toHaveURL(/\/storage/)
    const puffin = page.getByRole('region', { name: 'Bays of puffin' })
    await puffin.getByRole('button', { name: 'Bay 1: in no pool, 8 TB' }).press('Space')
    await puffin.getByRole('button', { name: 'Bay 2: in no pool, 8 TB' }).press('Space')
    const form = page.getByRole('form', { name: 'A new pool' })
    await expect(form.getByRole('radio', { name: /mirror 8 TB/ })).toBeChecked()
    await form.getByRole('radio', { name: /mirror 8 TB/ }).press('ArrowUp')
    await expect(form.getByRole('radio', { name: /stripe 16 TB/ })).toBeChecked()
    await form.getByRole('textbox', { name: 'Name of the pool' }).fill('puff')
    await page.keyboard.press('Enter')
    await expect(page.getByRole('region', { name: 'puff', exact: true })).toContainText('usable 16 TB')
    await puffin.getByRole('button', { name: 'Bay 3: in no pool, 8 TB' }).press('Space')
    await expect(form).toBeVisible()
    await page.keyboard.press('Escape')
    await expect(form).toBeHidden()
  })
})
