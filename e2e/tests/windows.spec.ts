import type { BrowserContext, Page } from '@playwright/test'
import type { Binary } from '../binary'
import { drawn, expect, lookFor, onStaff, quick, serious, setFact, settled, test, type } from '../fixtures'

test.use({ demo: true })

test('two windows stay in step, and neither loses what was typed', async ({ page, context, lab }) => {
  const other = await context.newPage()
  await other.goto(lab.url)
  await type(other, '7 switch "attic"')
  await expect(drawn(page, 'attic, switch, 7')).toBeVisible()

  await onStaff(page, 'attic').click()
  await page.getByRole('button', { name: /^Depth: / }).click()
  const field = page.getByRole('textbox', { name: 'Depth', exact: true })
  await field.fill('250')
  await onStaff(other, 'attic').click()
  await setFact(other, 'Depth', '300')
  await expect(page.getByText('Changed to 300 mm in another window. Enter keeps what you typed, Escape takes theirs.')).toBeVisible()
  await expect(field).toHaveValue('250')
  await field.press('Enter')
  await expect(page.getByRole('button', { name: 'Depth: 250 mm, edit' })).toBeVisible()
  await expect(other.getByRole('button', { name: 'Depth: 250 mm, edit' })).toBeVisible()

  // A window that looks at a draft follows what is built under it.
  await page.getByRole('button', { name: /^As built: drafts/ }).click()
  await page.getByText('Draft: Quiet ember').click()
  await expect(page.getByText('Draft: Quiet ember.')).toBeVisible()
  await setFact(other, 'Where', '3')
  await expect(drawn(page, 'attic, switch, 3')).toBeVisible()
})

/** A second window that does not hear of what others do before it asks. */
async function deaf(context: BrowserContext, url: string): Promise<Page> {
  const page = await context.newPage()
  await page.route('**/api/v1/events', (route) => route.fulfill({ status: 204 }))
  await page.goto(url)
  return page
}

test('who sets one fact second is asked, with both values: on a card', async ({ page, context, lab }) => {
  const other = await deaf(context, lab.url)
  await onStaff(other, 'anvil').click()
  await other.getByRole('button', { name: /^Weight: / }).click()
  const field = other.getByRole('textbox', { name: 'Weight', exact: true })
  await field.fill('21')
  await onStaff(page, 'anvil').click()
  await setFact(page, 'Weight', '22')
  await setFact(page, 'Depth', '701')
  await expect(page.getByRole('button', { name: 'Depth: 701 mm, edit' })).toBeVisible()
  await field.press('Enter')
  const question = other.getByText('Changed to 22kg in another window. Enter keeps what you typed, Escape takes theirs.')
  await expect(question).toBeVisible()
  await expect(field).toHaveValue('21')
  await settled(other)
  const [says, below] = [(await question.boundingBox())!, (await other.getByRole('button', { name: /^Mount: / }).boundingBox())!]
  expect(below.y, 'the question covers no other fact').toBeGreaterThanOrEqual(says.y + says.height)
  await field.press('Escape')
  await expect(other.getByRole('button', { name: 'Weight: 22 kg, edit' })).toBeVisible()

  // Another fact of the same thing is nobody's business.
  await other.getByRole('button', { name: /^Width: / }).click()
  await other.getByRole('textbox', { name: 'Width', exact: true }).fill('440')
  await setFact(page, 'Weight', '23')
  await expect(page.getByRole('button', { name: 'Weight: 23 kg, edit' })).toBeVisible()
  await other.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Width: 440 mm, edit' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Weight: 23 kg, edit' })).toBeVisible()
})

/** Sets a fact as another window does. */
async function setElsewhere(lab: Binary, record: { kind: string; id: string }, field: string, text: string) {
  const { revision } = await lab.get<{ revision: number }>('/api/v1/lab')
  const answer = await lab.post('/api/v1/facts', { base_revision: revision, record, field, text })
  expect(answer.status, await answer.text()).toBe(200)
}

/** What is called so. */
async function called(lab: Binary, list: 'devices' | 'cables', name: string) {
  const records = await lab.get<{ id: string; name?: string; label?: string }[]>(`/api/v1/${list}`)
  return { kind: list === 'devices' ? 'device' : 'cable', id: records.find((r) => name === (r.name ?? r.label))!.id }
}

test('who sets one fact second is asked, with both values: in a table', async ({ page, context, lab }) => {
  const other = await deaf(context, `${lab.url}/cabling/leads`)
  const row = other.getByRole('row').filter({ has: other.getByRole('gridcell', { name: 'PP1.03', exact: true }) })
  await row.getByRole('gridcell', { name: 'yellow', exact: true }).dblclick()
  const field = row.getByRole('combobox')
  await setElsewhere(lab, await called(lab, 'cables', 'PP1.03'), 'colour', 'blue')
  await field.selectOption('pink')
  await expect(other.getByRole('alert')).toHaveText('Changed to blue in another window. Enter keeps what you typed, Escape takes theirs.')
  await expect(other.getByRole('alert')).toBeInViewport({ ratio: 1 })
  await expect(field).toHaveValue('pink')
  await field.press('Enter')
  await expect(row.getByRole('gridcell', { name: 'pink', exact: true })).toBeVisible()
  await expect(page.getByRole('navigation', { name: 'Staff' })).toBeVisible()
})

test('who sets one fact second is asked, with both values: with a line', async ({ context, lab }) => {
  const other = await deaf(context, lab.url)
  const anvil = await called(lab, 'devices', 'anvil')
  const weight = async () => (await lab.get<{ weight_kg: number }>(`/api/v1/devices/${anvil.id}`)).weight_kg
  await quick(other).fill('anvil: 21kg')
  await setElsewhere(lab, anvil, 'weight_kg', '22')
  await quick(other).press('Enter')
  await expect(other.getByRole('alert')).toHaveText('anvil: weight is 22kg now, and you wrote 21kg')
  await expect(quick(other)).toHaveValue('anvil: 21kg')
  expect(await weight()).toBe(22)
  await quick(other).press('Enter')
  await expect(quick(other)).toHaveValue('')
  expect(await weight()).toBe(21)

  await quick(other).fill('anvil: 23kg')
  await setElsewhere(lab, anvil, 'weight_kg', '24')
  await quick(other).press('Enter')
  await expect(other.getByRole('alert')).toBeVisible()
  await quick(other).press('Escape')
  await expect(quick(other)).toHaveValue('')
  await expect(other.getByRole('alert')).toBeHidden()
  expect(await weight()).toBe(24)
})

test('who sets one fact second is asked, with both values: on the rundown page', async ({ page, lab }) => {
  const anvil = await called(lab, 'devices', 'anvil')
  const is = async () => lab.get<{ weight_kg: number; purpose: string }>(`/api/v1/devices/${anvil.id}`)
  await setElsewhere(lab, anvil, 'weight_kg', '20')
  await page.goto(`${lab.url}/rundown`)
  for (const [mine, theirs, choice] of [
    ['21', '22', 'Apply, with theirs'],
    ['23', '24', 'Apply, with yours'],
  ] as const) {
    await page.getByRole('textbox', { name: 'Rundown' }).click()
    const before = (await is()).weight_kg
    await lookFor(page, `${before}kg`)
    for (let i = 0; i < 4; i++) await page.keyboard.press('Backspace')
    await page.keyboard.type(`${mine}kg`)
    await expect(page.getByText(`weight ${mine} kg (was ${before} kg)`)).toBeVisible()
    await setElsewhere(lab, anvil, 'weight_kg', theirs)
    await expect(page.getByText(`anvil: weight is ${theirs}kg now, and you wrote ${mine}kg`)).toBeVisible()
    expect(await serious(page)).toEqual([])
    await page.getByRole('button', { name: choice }).click()
    await expect(page.getByText('The text matches the lab.')).toBeVisible()
    expect((await is()).weight_kg).toBe(Number(choice.endsWith('theirs') ? theirs : mine))
  }
})
