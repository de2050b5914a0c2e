import { cardOf, drag, drawn, expect, onStaff, quick, setFact, test, type, unitPoint } from '../fixtures'

test('an empty lab says what belongs there and offers the first step', async ({ page }) => {
  await expect(page.getByText('Stand in front of the rack and work from top to bottom')).toBeVisible()
  await page.getByRole('button', { name: /^rack "Pantry": 24U, 19in/ }).click()
  await expect(quick(page)).toBeFocused()
  await expect(quick(page)).toHaveValue('rack "Pantry": 24U, 19in')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('group', { name: 'Pantry, elevation' })).toBeVisible()
  await expect(page.getByText('24U free, in one piece')).toBeVisible()

  await type(page, 'place "Loft"')
  await expect(page.getByRole('heading', { name: 'Loft', level: 2 })).toBeVisible()
  await type(page, 'in "Loft" access point "loft ap"')
  await expect(drawn(page, 'loft ap')).toBeVisible()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(drawn(page, 'loft ap')).toHaveCount(0)
  await page.getByRole('button', { name: 'Remove the place' }).click()
  await expect(page.getByRole('button', { name: /^Loft/ })).toHaveCount(0)
})

test.describe('the lab as a whole', () => {
  test.use({ demo: true })

  test('its settings turn the numbers round and leave things where they are', async ({ page }) => {
    await page.getByRole('button', { name: /^As built: drafts/ }).click()
    await page.getByText('Lab settings').click()
    await setFact(page, 'Currency', 'pounds')
    await expect(page.getByText('is not a currency code; write three letters such as GBP')).toBeVisible()
    await page.keyboard.press('Escape')
    await setFact(page, 'Name', 'Old Quarry', page.getByRole('dialog'))
    await page.getByRole('button', { name: 'Unit numbering: units from the bottom, edit' }).click()
    await page.getByRole('option', { name: 'from the top' }).click()
    await expect(page.getByRole('button', { name: 'Unit numbering: units from the top, edit' })).toBeVisible()
    await page.getByRole('button', { name: 'Done' }).click()
    // Of 24 units, 12-13 from the foot are 12-13 from the head, and 1-2 are 23-24.
    await expect(drawn(page, 'anvil, server, 12-13')).toBeVisible()
    await expect(drawn(page, 'keep, UPS, 23-24')).toBeVisible()
    await expect(page.getByText('Old Quarry')).toBeVisible()
  })

  test('its colours are those of the system, or chosen', async ({ page }) => {
    const paper = () => page.evaluate(() => getComputedStyle(document.querySelector('.v-application')!).backgroundColor)
    await page.emulateMedia({ colorScheme: 'light' })
    await expect.poll(paper).toBe('rgb(243, 239, 230)')
    await page.emulateMedia({ colorScheme: 'dark' })
    await expect.poll(paper).toBe('rgb(17, 25, 28)')
    await page.getByRole('button', { name: /^As built: drafts/ }).click()
    await page.getByText('Light', { exact: true }).click()
    await expect.poll(paper).toBe('rgb(243, 239, 230)')
    await page.reload()
    await expect.poll(paper).toBe('rgb(243, 239, 230)')
  })

  test('a rack is edited on its card, and says what has not been weighed', async ({ page }) => {
    const card = cardOf(page)
    await expect(card).toContainText('At least 115.8 kg of 300 kg, 20 devices')
    await setFact(page, 'Load it may carry', '100kg')
    await expect(page.getByRole('img', { name: /^Weight: at least 115.8 of 100 kg/ })).toBeVisible()
    await setFact(page, 'Height', '12U')
    await expect(page.getByText('“Pantry” has 12U and')).toBeVisible()
    await page.keyboard.press('Escape')
    await card.getByRole('button', { name: /^lamp bridge/ }).click()
    await setFact(page, 'Weight', '300g')
    await expect(page.getByRole('img', { name: /^Weight: at least 116.1 of 100 kg/ })).toBeVisible()
  })

  test('a thing is dragged onto a shelf, to a place, and let go of again', async ({ page }) => {
    const shelf = (await drawn(page, 'sbc shelf, shelf, 14-15').boundingBox())!
    const tray = page.getByRole('region', { name: 'Not placed yet' })
    await drag(page, tray.getByRole('button', { name: 'cellar copy' }), { x: shelf.x + shelf.width - 12, y: shelf.y + 8 }, false, false)
    await page.mouse.up()
    await expect(page.getByRole('button', { name: 'Where: on sbc shelf, edit' })).toBeVisible()
    await expect(page.getByRole('status')).toHaveText('cellar copy moved from not placed yet to on sbc shelf')

    await page.keyboard.press(']')
    await page.keyboard.press(']')
    const study = (await page.getByRole('button', { name: /^Study/ }).boundingBox())!
    await drag(page, drawn(page, 'plover, mini PC'), { x: study.x + 20, y: study.y + 8 }, false, false)
    await page.mouse.up()
    await expect(page.getByRole('heading', { name: 'Study', level: 2 })).toBeVisible()
    await expect(drawn(page, 'plover')).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(drawn(page, 'plover, mini PC')).toBeVisible()

    await page.getByRole('button', { name: 'To the rack Pantry' }).click()
    await drag(page, drawn(page, 'gate, router, 21'), await unitPoint(page, 'gate, router, 21', 'console, KVM switch, 18', 0.4), false)
    await page.keyboard.press('Escape')
    await page.mouse.up()
    await expect(drawn(page, 'gate, router, 21')).toBeVisible()
    await expect(page.locator('[data-target]')).toHaveCount(0)
  })

  test('half a unit is drawn as half a unit, and its other half is free', async ({ page }) => {
    await page.getByRole('button', { name: /^Loft cabinet/ }).click()
    const left = (await drawn(page, 'thrush, mini PC, 4').boundingBox())!
    const right = (await drawn(page, 'siskin, mini PC, 4').boundingBox())!
    expect(right.x).toBeGreaterThanOrEqual(left.x + left.width - 8)
    expect(Math.abs(left.y - right.y)).toBeLessThan(2)
    await onStaff(page, 'siskin').click()
    await page.keyboard.press('Delete')
    await expect(drawn(page, 'siskin, mini PC, 4')).toHaveCount(0)
    await expect(
      page
        .locator('.piece')
        .filter({ hasText: /^\s*free\s*$/ })
        .first(),
    ).toBeVisible()
    await type(page, '4 right half mini pc "siskin"')
    await expect(drawn(page, 'siskin, mini PC, 4')).toBeVisible()
  })

  test('a text that is not applied can be taken back', async ({ page }) => {
    await page.getByRole('link', { name: /Rundown/ }).click()
    await page.getByRole('textbox', { name: 'Rundown' }).click()
    await page.keyboard.press('Control+End')
    await page.keyboard.insertText('place "Shed"')
    await expect(page.getByText('place "Shed" added')).toBeVisible()
    await page.getByRole('button', { name: 'Revert' }).click()
    await expect(page.getByText('The text matches the lab.')).toBeVisible()
    await page.keyboard.press('Escape')
    await page.getByRole('link', { name: /^1?\s*Rack/ }).click()
    await expect(page.getByText('it is not applied yet')).toHaveCount(0)
  })

  test('when the server is gone, it says so and keeps what was typed', async ({ page, lab }) => {
    await quick(page).fill('7 switch "attic"')
    await lab.stop()
    await page.keyboard.press('Enter')
    await expect(page.getByRole('status')).toHaveText('Levelstaff does not answer. Is it still running? Nothing was changed.')
    await expect(quick(page)).toHaveValue('7 switch "attic"')
  })
})
