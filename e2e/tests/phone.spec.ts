import type { Page } from '@playwright/test'
import { drawn, expect, onStaff, serious, setFact, test, type } from '../fixtures'

test.use({ demo: true, viewport: { width: 390, height: 844 }, hasTouch: true })

/** The mark opens the list of all sheets. */
async function toSheet(page: Page, name: string) {
  await page.getByRole('button', { name: /: all sheets$/ }).tap()
  await page.getByRole('navigation', { name: 'All sheets' }).getByRole('link', { name }).tap()
}

test('at the rack, a phone shows the staff, fills in a fact and adds a thing', async ({ page }) => {
  await expect(page.getByText('6 U free')).toBeVisible()
  await onStaff(page, 'gate').tap()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  await setFact(page, 'Weight', '6.5')
  await expect(page.getByRole('button', { name: 'Weight: 6.5 kg, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()

  await page.getByRole('button', { name: '19-20: 2U free, put something here' }).tap()
  await expect(page.getByRole('combobox', { name: 'Quick line' })).toHaveValue('19-20 ')
  await type(page, '19 switch "attic"')
  await expect(onStaff(page, 'attic')).toBeVisible()
  await expect(page.getByText('5 U free')).toBeVisible()
  for (const button of await page.getByRole('navigation', { name: 'Staff' }).locator('[data-staff]').all()) {
    expect((await button.boundingBox())!.height).toBeGreaterThanOrEqual(41)
  }
})

test('on a phone one finds a thing, ticks off a step and writes a note', async ({ page }) => {
  await page.getByRole('button', { name: 'Find', exact: true }).tap()
  await page.keyboard.type('bateries')
  await page.getByRole('listbox').getByRole('option').first().tap()
  await expect(page.getByRole('button', { name: 'Name: keep, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()

  await toSheet(page, 'Drafts')
  const steps = page.getByRole('complementary', { name: 'Steps of the draft' })
  await steps.getByRole('button', { name: 'Done: server "ember" removed' }).tap()
  await expect(steps.getByText('✓')).toHaveCount(1)
  await page.getByRole('button', { name: 'Undo' }).tap()
  await expect(steps.getByText('✓')).toHaveCount(0)

  await toSheet(page, 'Findings')
  await page.getByRole('button', { name: 'ember', exact: true }).first().tap()
  await expect(page.getByRole('button', { name: 'State: faulty, edit' })).toBeVisible()
  await page.getByRole('button', { name: 'Close the card' }).tap()
  await toSheet(page, 'Logbook')
  await page.getByRole('textbox', { name: 'Note by hand' }).fill('Dusted the top of the rack')
  await page.getByRole('button', { name: 'Add note' }).tap()
  await expect(page.getByText('Dusted the top of the rack', { exact: true })).toBeVisible()
  const wide = await page.evaluate(() => document.documentElement.scrollWidth)
  expect(wide, 'nothing sticks out at the side').toBeLessThanOrEqual(390)
})

test('on a phone a rack is drawn, scrolled by a finger, coloured by a lens, asked for room and whether something fits', async ({
  page,
}) => {
  const tabs = page.getByRole('navigation', { name: 'Tabs of Rack' })
  await expect(tabs.getByRole('link', { name: 'Staff' })).toHaveAttribute('aria-current', 'page')
  await tabs.getByRole('link', { name: 'Front', exact: true }).tap()
  await expect(drawn(page, 'keep, UPS, 1-2')).toBeAttached()
  expect((await page.locator('[data-drawing]').boundingBox())!.width, 'as wide as the page').toBeGreaterThan(330)

  // A finger on a thing scrolls, as anywhere.
  const silo = (await drawn(page, 'silo, NAS, 9-11').boundingBox())!
  const scroll = () => page.locator('[data-drawing]').evaluate((e) => e.closest('.room')!.scrollTop)
  expect(await scroll()).toBe(0)
  const touch = await page.context().newCDPSession(page)
  const at = (y: number) => [{ x: silo.x + 40, y: silo.y + y }]
  await touch.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: at(20) })
  for (let y = 0; y > -120; y -= 20) await touch.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: at(y) })
  await touch.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] })
  await expect.poll(scroll).toBeGreaterThan(50)
  await expect(page.getByRole('dialog', { name: 'Card' })).toBeHidden()

  await drawn(page, 'silo, NAS, 9-11').tap()
  await expect(page.getByRole('button', { name: 'Name: silo, edit' })).toBeVisible()
  await expect(page).toHaveURL(/card=1/)
  await page.goBack()
  await expect(page.getByRole('dialog', { name: 'Card' })).toBeHidden()

  await page.getByRole('combobox', { name: 'Lens' }).selectOption('weight')
  await expect(drawn(page, 'silo, NAS, 9-11')).toContainText('22 kg')
  await page.getByRole('button', { name: 'Make room' }).tap()
  await expect(page.getByText('Fewest moves:')).toBeVisible()
  await page.getByRole('button', { name: 'Does it fit?' }).tap()
  await expect(page.getByRole('dialog', { name: 'Does it fit?' })).toBeVisible()
})

const everySheet = [
  ...['/rack', '/rack/front', '/rack/all', '/gear', '/gear/parts', '/gear/money', '/gear/sheets', '/cabling', '/cabling/faces'],
  ...['/cabling/leads', '/cabling/runs', '/cabling/ports', '/cabling/buy', '/cabling/ways', '/cabling/labels', '/drafts', '/findings'],
  ...['/networks', '/networks/grid', '/networks/vlans', '/networks/wireless', '/networks/addresses'],
  ...['/networks/reach', '/networks/outside', '/networks/names'],
  ...['/power', '/power/battery', '/power/lost', '/power/cost', '/power/heat', '/power/poe'],
  ...['/logbook', '/logbook/days', '/rundown'],
]

test('on a phone every sheet has the quick line, and what is touched is 44 px high', async ({ page, lab }) => {
  for (const path of everySheet) {
    await page.goto(lab.url + path)
    await expect(page.getByRole('combobox', { name: 'Quick line' }), path).toBeVisible()
    await expect(page.getByRole('button', { name: /: all sheets$/ }), path).toBeVisible()
    // What stands in a sentence is a word of it; a box counts with its label.
    const small = () =>
      page.evaluate(() =>
        [...document.querySelectorAll('a[href], button, input, select, textarea')]
          .filter((e) => e.checkVisibility() && getComputedStyle(e).display !== 'inline' && !e.closest('[inert], .sr-only, .cm-editor'))
          .map((e) => ({
            is: `${e.tagName} ${e.getAttribute('aria-label') ?? e.textContent?.trim().slice(0, 30)}`,
            high: Math.max(e.getBoundingClientRect().height, e.closest('label')?.getBoundingClientRect().height ?? 0),
          }))
          .filter((e) => e.high > 0 && e.high < 43.5)
          .map((e) => `${e.is}: ${e.high.toFixed(0)} px`),
      )
    await expect.poll(small, path).toEqual([])
    expect(
      await page.evaluate(() => document.documentElement.scrollWidth),
      `nothing of ${path} sticks out at the side`,
    ).toBeLessThanOrEqual(390)
  }
})

test('axe finds nothing serious on a phone', async ({ page, lab }) => {
  for (const path of [
    '/rack',
    '/rack/front',
    '/gear',
    '/drafts',
    '/networks',
    '/networks/grid',
    '/networks/addresses',
    '/networks/reach',
    '/power',
  ]) {
    await page.goto(lab.url + path)
    await expect(page.getByRole('combobox', { name: 'Quick line' })).toBeVisible()
    expect(await serious(page), path).toEqual([])
  }
  await page.goto(`${lab.url}/rack`)
  await onStaff(page, 'anvil').tap()
  await expect(page.getByRole('button', { name: 'Close the card' })).toBeVisible()
  expect(await serious(page), 'the card').toEqual([])
})
