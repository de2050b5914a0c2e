import { expect, test } from 'vitest'
import { hasWords } from './useSheets'

test('a sheet is found by any words of its name, make and kind, in any order', () => {
  const sheet = { id: 's', name: '1U PoE switch, 24 x 1G', maker: 'Tarn', model: '24P', device_kind: 'switch' as const }
  for (const words of ['', '  ', 'poe', 'TARN 24', 'switch tarn', '24p 1g']) expect(hasWords(sheet, words), words).toBe(true)
  for (const words of ['fell', 'tarn nas', 'poe 48']) expect(hasWords(sheet, words), words).toBe(false)
})
