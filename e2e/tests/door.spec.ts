import { execFileSync } from 'node:child_process'
import { networkInterfaces } from 'node:os'
import { expect, test } from '@playwright/test'
import { Binary, levelstaff } from '../binary'

const passphrase = 'correct horse battery'

test('from outside one signs in, a script has a token, and everyone is signed out at once', async ({ page }) => {
  const lab = new Binary()
  const address =
    Object.values(networkInterfaces())
      .flatMap((list) => list ?? [])
      .find((a) => a.family === 'IPv4' && !a.internal)?.address ?? '127.0.0.1'
  try {
    expect(() => execFileSync(levelstaff, ['serve', '--data', lab.data, '--listen', '0.0.0.0:0'], { stdio: 'pipe' })).toThrow(
      /set one with levelstaff passphrase/,
    )
    execFileSync(levelstaff, ['passphrase', '--data', lab.data], { input: passphrase })
    await lab.start(false, '0.0.0.0')
    const outside = lab.url.replace(/\/\/[^:]*\[?:*\]?:(\d+)$/, `//${address}:$1`).replace('0.0.0.0', address)
    await page.goto(outside)
    await expect(page.getByRole('heading', { name: 'Levelstaff' })).toBeVisible()
    await page.getByLabel('Passphrase').fill('something else')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('alert')).toHaveText('That is not the passphrase.')
    await page.getByLabel('Passphrase').fill(passphrase)
    await page.keyboard.press('Enter')
    await expect(page.getByRole('heading', { name: 'Nothing documented yet' })).toBeVisible()

    await page.getByRole('button', { name: /^As built: drafts/ }).click()
    await page.getByText('Access', { exact: true }).click()
    await expect(
      page
        .getByRole('row')
        .filter({ hasText: address })
        .or(page.getByRole('row').filter({ hasText: '127.0.0.1' }))
        .first(),
    ).toBeVisible()
    await page.getByRole('textbox', { name: 'What the token is for' }).fill('inventory')
    await page.getByRole('button', { name: 'Make a token' }).click()
    const secret = (await page.locator('[data-secret]').textContent())!
    const ask = (method: string) =>
      fetch(`${outside}/api/v1/places`, {
        method,
        headers: { Authorization: `Bearer ${secret}`, 'Content-Type': 'application/json' },
        body: method === 'POST' ? '{"name":"Loft"}' : undefined,
      })
    expect((await ask('GET')).status).toBe(200)
    expect((await ask('POST')).status).toBe(403)
    await page.getByRole('button', { name: 'Revoke' }).click()
    await expect(page.getByText('None. A script sends one')).toBeVisible()
    expect((await ask('GET')).status).toBe(401)

    // The session outlives a restart, until everyone is signed out.
    await lab.stop()
    await lab.start(false, '0.0.0.0')
    await page.reload()
    await expect(page.getByRole('heading', { name: 'Nothing documented yet' })).toBeVisible()
    await page.getByRole('button', { name: /^As built: drafts/ }).click()
    await page.getByText('Access', { exact: true }).click()
    await page.getByRole('button', { name: 'Sign everyone out' }).click()
    await expect(page.getByLabel('Passphrase')).toBeVisible()
    await page.goto(`${outside}/rack`)
    await expect(page.getByLabel('Passphrase')).toBeVisible()
  } finally {
    await lab.remove()
  }
})

test('files go out and in, and a bad one says why', async ({ page }) => {
  const lab = new Binary()
  try {
    await lab.start(true)
    await page.goto(lab.url)
    const openFiles = async () => {
      await page.getByRole('button', { name: /^As built: drafts/ }).click()
      await page.getByText('Import and export').click()
    }
    await openFiles()
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name: 'devices.csv' }).click()
    expect((await download).suggestedFilename()).toMatch(/^devices-.*\.csv$/)
    const load = (name: string, text: string | Buffer) =>
      page.getByLabel('File to load').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) })
    await load('latin.csv', Buffer.from('name,kind\nGer\xe4t,server\n', 'latin1'))
    await expect(page.getByRole('alert')).toContainText('is not UTF-8')
    await load('bad.csv', 'name,kind,where\nlark,swich,?\nanvil,server,"""Pantry"" 99"\n')
    await expect(page.getByRole('region', { name: 'What comes of each line' })).toContainText(
      '2refusedlarkkind: “swich” is not a kind of device',
    )
    await expect(page.getByRole('button', { name: '2 refused' })).toHaveAttribute('aria-pressed', 'true')
    await expect(page.getByRole('button', { name: /^Load bad/ })).toHaveCount(0)
    await load('good.csv', 'name;kind;where;weight\nlark;mini pc;?;1,2\nanvil;;;25\n')
    await expect(page.getByRole('button', { name: '1 new' })).toBeVisible()
    await page.getByRole('button', { name: /^Load good.csv/ }).click()
    await expect(page.getByRole('region', { name: 'Not placed yet' })).toContainText('lark')
  } finally {
    await lab.remove()
  }
})
