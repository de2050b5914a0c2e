import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, onStaff, test } from '../fixtures'

const drawnByUs = (name: string) => ({ name: `${name}.jpg`, mimeType: 'image/jpeg', buffer: readFileSync(join(import.meta.dirname, '..', '..', 'demo', 'photos', `${name}.jpg`)) })

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('photos are added, looked at, described, put in order and removed', async ({ page }) => {
    await onStaff(page, 'gate').click()
    const card = page.getByRole('complementary', { name: 'Card' })
    const disguised = { name: 'holiday.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('PK\u0003\u0004 not a picture at all') }
    await card.locator('input[data-photos]').setInputFiles([drawnByUs('silo-bays'), disguised, drawnByUs('anvil-label')])
    await expect(card.getByRole('alert')).toContainText('holiday.jpg: This is not a picture that can be read: it looks like application/zip')
    await expect(card.getByRole('button', { name: /^Photo \d/ })).toHaveCount(2)
    const thumbnail = card.getByRole('button', { name: /^Photo 1/ }).locator('img')
    await expect.poll(() => thumbnail.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(320)

    await card.getByRole('button', { name: /^Photo 1/ }).click()
    const dialog = page.getByRole('dialog', { name: 'A photo of gate' })
    await expect.poll(() => dialog.locator('img').evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1200)
    await dialog.getByRole('textbox').fill('What it stood on before')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'The next photo' }).click()
    await expect(dialog).toContainText('2 of 2')
    await dialog.getByRole('button', { name: 'Show it first' }).click()
    await expect(dialog).toContainText('1 of 2')
    await dialog.getByRole('button', { name: 'Done' }).click()
    await expect(card.getByRole('button', { name: 'Photo 2: What it stood on before' })).toBeVisible()

    await card.getByRole('button', { name: /^Photo 1/ }).click()
    await dialog.getByRole('button', { name: 'Remove it' }).click()
    await dialog.getByRole('button', { name: 'Done' }).click()
    await expect(card.getByRole('button', { name: /^Photo \d/ })).toHaveCount(1)
    await page.keyboard.press('Control+z')
    await expect(card.getByRole('button', { name: /^Photo \d/ })).toHaveCount(2)
  })
})
