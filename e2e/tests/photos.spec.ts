import { devices } from '@playwright/test'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { cardOf, expect, onStaff, test } from '../fixtures'

const drawnByUs = (name: string) => ({
  name: `${name}.jpg`,
  mimeType: 'image/jpeg',
  buffer: readFileSync(join(import.meta.dirname, '..', '..', 'demo', 'photos', `${name}.jpg`)),
})

test.describe('in Quarry House', () => {
  test.use({ demo: true })

  test('photos are added, looked at, described, put in order and removed', async ({ page }) => {
    await onStaff(page, 'gate').click()
    const card = cardOf(page)
    const disguised = { name: 'holiday.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('PK\u0003\u0004 not a picture at all') }
    await card.locator('input[data-photos]').setInputFiles([drawnByUs('silo-bays'), disguised, drawnByUs('anvil-label')])
    await expect(card.getByRole('alert')).toContainText(
      'holiday.jpg: This is not a picture that can be read: it looks like application/zip',
    )
    await expect(card.getByRole('button', { name: /^Photo \d/ })).toHaveCount(2)
    const thumbnail = card.getByRole('button', { name: /^Photo 1/ }).locator('img')
    await thumbnail.scrollIntoViewIfNeeded()
    await expect.poll(() => thumbnail.evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(320)

    await card.getByRole('button', { name: /^Photo 1/ }).click()
    const dialog = page.getByRole('dialog', { name: 'A photo of gate' })
    await expect.poll(() => dialog.locator('img').evaluate((img: HTMLImageElement) => img.naturalWidth)).toBe(1200)
    await dialog.getByRole('textbox').fill('What it stood on before')
    await page.keyboard.press('Enter')
    await page.getByRole('button', { name: 'Next photo' }).click()
    await expect(dialog).toContainText('2 of 2')
    await dialog.getByRole('button', { name: 'Make it the first' }).click()
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

  test('a photo whose picture is not here says so, as after loading a lab from a text file', async ({ page, lab }) => {
    const { devices: things } = await lab.get<{ devices: { id: string; name?: string }[] }>('/api/v1/lab')
    const gate = things.find((d) => d.name === 'gate')
    const made = await lab.post('/api/v1/photos', {
      device_id: gate?.id,
      file: '0'.repeat(64),
      width_px: 640,
      height_px: 480,
      caption: 'its back',
    })
    expect(made.status).toBe(201)
    await onStaff(page, 'gate').click()
    const photo = page.getByRole('button', { name: 'Photo 1: its back' })
    await expect(photo).toContainText('picture not here')
    await photo.click()
    await expect(page.getByRole('dialog', { name: 'A photo of gate' })).toContainText('a backup has them')
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog')).toHaveCount(0)
  })

  test('the past shows its photos and takes none', async ({ page }) => {
    await page.getByRole('link', { name: 'Logbook' }).click()
    await page.locator('[data-entry]', { hasText: 'photos from the cleaning day' }).getByRole('button', { name: 'Look' }).click()
    await page.getByRole('link', { name: 'Rack', exact: true }).click()
    await onStaff(page, 'silo').click()
    const card = cardOf(page)
    await card.getByRole('button', { name: 'Photo 1: Bay 9 is the one that clicks' }).click()
    const dialog = page.getByRole('dialog', { name: 'A photo of silo' })
    await expect(dialog).toContainText('Bay 9 is the one that clicks')
    await expect(dialog.getByRole('textbox')).toHaveCount(0)
    await expect(dialog.getByRole('button', { name: 'Remove it' })).toHaveCount(0)
    await dialog.getByRole('button', { name: 'Done' }).click()
    await expect(card.getByRole('button', { name: 'Add photos' })).toHaveCount(0)
  })
})

test.describe('on a phone in front of the rack', () => {
  const { viewport, userAgent, deviceScaleFactor, isMobile, hasTouch } = devices['iPhone 13']
  test.use({ demo: true, viewport, userAgent, deviceScaleFactor, isMobile, hasTouch })

  test('a photo is taken, kept and shown', async ({ page }) => {
    await onStaff(page, 'gate').tap()
    const card = cardOf(page)
    const chooser = page.waitForEvent('filechooser')
    await card.getByRole('button', { name: 'Add a photo' }).tap()
    expect((await chooser).isMultiple()).toBe(true)
    await (await chooser).setFiles([drawnByUs('silo-bays')])
    const photo = card.getByRole('button', { name: 'Photo 1: no caption' })
    await photo.tap()
    const dialog = page.getByRole('dialog', { name: 'A photo of gate' })
    const { width = 0 } = (await dialog.locator('img').boundingBox()) ?? {}
    expect(width).toBeLessThanOrEqual(viewport.width)
    await dialog.getByRole('button', { name: 'Done' }).tap()
    await expect(photo).toBeVisible()
  })
})
