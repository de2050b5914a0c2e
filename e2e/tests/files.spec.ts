import type { Page } from '@playwright/test'
import { readSheet } from 'read-excel-file/node'
import writeExcelFile from 'write-excel-file/node'
import { expect, onStaff, test } from '../fixtures'

const files = async (page: Page) => {
  await page.getByRole('button', { name: /^As built: drafts/ }).click()
  await page.getByText('Import and export', { exact: true }).click()
  return page.getByRole('dialog', { name: 'Import and export' })
}
const csv = (text: string) => ({ name: 'list.csv', mimeType: 'text/csv', buffer: Buffer.from(text) })

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('a workbook is taken out, edited elsewhere, and loaded back', async ({ page }) => {
    const dialog = await files(page)
    const download = page.waitForEvent('download')
    await dialog.getByRole('link', { name: 'devices.xlsx' }).click()
    const rows = await readSheet(await (await download).path())
    const names = rows[0] as string[]
    const column = (name: string) => names.indexOf(name)
    const gate = rows.find((r) => r[column('name')] === 'gate')
    expect(gate?.[column('weight_kg')]).toBeNull()
    gate![column('weight_kg')] = 3.4
    const lark = names.map((name) => ({ name: 'lark', kind: 'mini PC', where: 'on "sbc shelf"' })[name] ?? null)
    const edited = await writeExcelFile(
      [...rows, lark].map((row) =>
        row.map((value) =>
          typeof value === 'number' ? { value, type: Number } : value === null ? null : { value: String(value), type: String },
        ),
      ),
    ).toBuffer()

    await dialog
      .getByLabel('File to load')
      .setInputFiles({ name: 'devices (edited).xlsx', mimeType: 'application/octet-stream', buffer: edited })
    await expect(dialog.getByText(/^\d+ columns, named like ours$/)).toBeVisible()
    await expect(dialog.getByRole('group', { name: 'Lines' })).toContainText('1 new')
    await expect(dialog.getByRole('group', { name: 'Lines' })).toContainText('1 changed')
    await dialog.getByRole('button', { name: '1 changed' }).click()
    await expect(dialog.getByRole('region', { name: 'What comes of each line' })).toContainText('gateweight 3.4 kg')
    await dialog.getByRole('button', { name: /^Load devices \(edited\)\.xlsx: 2 changes/ }).click()
    await expect(dialog).toBeHidden()
    await onStaff(page, 'gate').click()
    await expect(page.getByRole('button', { name: 'Weight: 3.4 kg, edit' })).toBeVisible()
    await expect(page.getByRole('navigation', { name: 'Staff' })).toContainText('lark')
    await page.keyboard.press('Control+z')
    await expect(page.getByRole('navigation', { name: 'Staff' })).not.toContainText('lark')
    await expect(page.getByRole('button', { name: 'Weight: unknown, edit' })).toBeVisible()
  })

  test("somebody else's list is mapped by hand, and refused until every line is right", async ({ page }) => {
    const dialog = await files(page)
    const pick = (text: string) => dialog.getByLabel('File to load').setInputFiles(csv(text))
    await pick('Hostname,Weight (lb),Shoe size\nanvil,50,1.2\ndove,,3\n')
    await expect(dialog.getByText('3 columns, 2 taken for what their names say, left out: Shoe size')).toBeVisible()
    const lines = dialog.getByRole('region', { name: 'What comes of each line' })
    await expect(lines).toContainText('it is not in the lab yet; say in the column kind what it is')
    await expect(dialog.getByRole('button', { name: /^Load/ })).toHaveCount(0)
    await dialog.getByLabel('What is new in it is a').selectOption('mini pc')
    await dialog.getByLabel('Shoe size is read as').selectOption('depth')
    await expect(dialog.getByRole('button', { name: '1 new' })).toBeVisible()
    await expect(lines).toContainText('depth 1.2 mm (was 710 mm), weight 22.68 kg (was 24 kg)')
    await dialog.getByLabel('Shoe size is read as').selectOption('')
    await expect(lines).not.toContainText('deep')

    // The same list, taken for parts: a drive goes into a bay that is free, not into one that is taken.
    await pick('Host,Bay,Capacity\nanvil,7,2TB\nanvil,1,2TB\n')
    await dialog.getByLabel('It lists').selectOption('parts')
    await dialog.getByLabel('What is new in it is a').selectOption('drive')
    await expect(lines).toContainText('newdrivein anvil, bay 7')
    await expect(lines).toContainText('2 TB (was 8 TB)')

    await dialog.getByLabel('It lists').selectOption('devices')
    await pick(
      'name,bought_on,price_minor,kind\ndove,31.02.,12,mini pc\nraven,2026-02,USD 12,server\nheron,2026-02,12,server\nheron,2026-02,12,server\nrook,=1+1,,server',
    )
    await expect(dialog.getByRole('button', { name: '4 refused' })).toBeVisible()
    for (const said of ['31.02.', 'USD', 'line 4 is about the same thing', '“=1+1” is a formula']) await expect(lines).toContainText(said)
    await dialog
      .getByLabel('File to load')
      .setInputFiles({ name: 'bomb.xlsx', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004 nothing inside') })
    await expect(dialog.getByRole('alert')).toContainText('Nothing was loaded: ')
    await expect(lines).toHaveCount(0)
  })
})
