import { drawn, expect, onStaff, setFact, test, type } from '../fixtures'

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
  await expect(page.getByText('“').first().or(page.getByRole('status').first())).toBeVisible()
  await setFact(other, 'Where', '3')
  await expect(drawn(page, 'attic, switch, 3')).toBeVisible()
})
