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
