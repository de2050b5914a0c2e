import { cardOf, drawn, expect, quick, serious, test, type } from '../fixtures'

/** A lab as its owner says it: half of it known, in no fixed form. */
const told = `rack "cellar": 12U, ten inch, 400 deep, good for 40kg, on the wall
12 1U patch panel "PP": 12-port, 1-8 used
11 managed switch "core": 8 gigabit ports, 2 sfp+ 10 gig, poe+ 60W, fanless
10 mini pc "gate": also router, 4x 2.5G, 14W
9 shelf: board "wren", 4W, hub "lamp", not bolted
6-7 nas "silo": 4-bay, 2x 6 TB smr, 64GB, 22W, 10G
1-2 ups "keep": 600VA, 360W, 4 outlets battery
rear left strip "bar": 6 out
place "Loft"
  access point "ap": class 4
  air conditioner "chill": lent by a neighbour
PP/1 - ap, 12m, cat 6
core/1 - PP/1, quarter metre, blue
core/8 - gate/2
silo - bar
bar - keep
core/5 - wren
silo: 1,5kg, from my brother
place "Loft"
  camera "eye"
`

test('the first hour: a lab is written as it is told, and what is meant is taken', async ({ page }) => {
  await page.getByRole('link', { name: 'rundown page' }).click()
  await page.getByRole('textbox', { name: 'Rundown' }).click()
  await page.keyboard.insertText(told)
  const would = page.getByRole('region', { name: 'What applying the text would do' })
  await expect(would.getByText('kept as a remark: “fanless”')).toBeVisible()
  await expect(would.locator('.mistake')).toHaveCount(0)
  await page.getByRole('button', { name: 'Apply', exact: true }).click()
  await expect(page.getByText('The text matches the lab.')).toBeVisible()

  await page.getByRole('link', { name: 'Rack', exact: false }).first().click()
  await expect(drawn(page, 'core, switch, 11')).toBeVisible()
  await expect(drawn(page, 'silo, NAS, 6-7')).toBeVisible()
  await drawn(page, 'silo, NAS, 6-7').click()
  await expect(page.getByText('from my brother')).toBeVisible()
  const card = cardOf(page)
  await expect(
    card
      .getByText('1.5 kg')
      .or(card.getByText('1.5', { exact: false }))
      .first(),
  ).toBeVisible()

  // A misspelt kind: the word that was meant, at a key; a name that is taken is asked about.
  await quick(page).fill('5 swich "attic": 8 ports')
  await expect(page.getByText('swich: did you mean switch?')).toBeVisible()
  await quick(page).press('Control+.')
  await expect(quick(page)).toHaveValue('5 switch "attic": 8 ports')
  await quick(page).press('Enter')
  await expect(drawn(page, 'attic, switch, 5')).toBeVisible()
  await quick(page).fill('4 nas "core"')
  await quick(page).press('Enter')
  await expect(page.getByText('"core" is a switch; write "core" is a nas to change what it is').first()).toBeVisible()
  await quick(page).fill('')
  await type(page, 'rename "attic" to "spare one"')
  await expect(drawn(page, 'spare one, switch, 5')).toBeVisible()
  await type(page, 'core: 1,2kg')
  await type(page, 'spare one/1 - core')
})

test('how lines are written is a key away, and an example goes into the quick line', async ({ page }) => {
  await quick(page).fill('9 flywheel of fortune')
  await quick(page).press('Enter')
  await page.getByRole('button', { name: 'How lines are written' }).click()
  const dialog = page.getByRole('dialog', { name: 'How lines are written' })
  await dialog.getByRole('button', { name: 'rack "Pantry": 24U, 19in, 800 deep, holds 300kg' }).click()
  await expect(quick(page)).toHaveValue('rack "Pantry": 24U, 19in, 800 deep, holds 300kg')
  await expect(quick(page)).toBeFocused()
  await quick(page).press('Enter')
  await expect(page.getByRole('heading', { name: 'Pantry' }).first()).toBeVisible()
  await page.keyboard.press('Escape')
  await page.locator('body').press('?')
  await page.getByRole('dialog', { name: 'Keys' }).getByRole('button', { name: 'How lines are written' }).click()
  await expect(dialog.getByText('More of what is known')).toBeVisible()
})

test('a made-up rack to try things in: five lines write themselves, and one click throws it away', async ({ page, lab }) => {
  expect(await serious(page), 'the empty lab').toEqual([])
  await page.getByRole('button', { name: 'Try things in a made-up rack' }).click()
  const band = page.getByRole('region', { name: 'Made-up rack' })
  await expect(drawn(page, 'cellar, server, 8-9')).toBeVisible()
  expect(await serious(page), 'the made-up rack').toEqual([])
  const lines = (await lab.get<{ line: string }[]>('/api/v1/trial')).map((l) => l.line)
  const after = [
    drawn(page, 'wren, mini PC, 7'),
    cardOf(page).getByRole('button', { name: 'Price: 140, edit' }),
    cardOf(page).getByText('middle/4', { exact: true }),
    cardOf(page).getByText('64GB, 4 of 8 slots'),
    drawn(page, 'barn, NAS, 3-4'),
  ]
  for (const [i, seen] of after.entries()) {
    await expect(band).toContainText(`${i + 1} of 5.`)
    await band.getByRole('button', { name: `Write line ${i + 1}` }).click()
    await expect(quick(page)).toHaveValue(lines[i]!)
    await expect(page.locator('[data-would]')).toBeVisible()
    await page.keyboard.press('Enter')
    if (i === 3) await page.locator('[data-staff]').filter({ hasText: 'cellar' }).click()
    await expect(seen).toBeVisible()
    if (i === 2) await page.reload()
  }
  await expect(band).toContainText('That is all it takes.')

  await band.getByRole('button', { name: 'Throw it away' }).click()
  await expect(page.getByRole('heading', { name: 'Nothing documented yet' })).toBeVisible()
  await expect(band).toBeHidden()
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(drawn(page, 'barn, NAS, 3-4')).toBeVisible()
})
