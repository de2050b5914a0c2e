import { beforeEach, expect, test, vi } from 'vitest'
import { keep, linesOf, unapplied } from './unapplied'

beforeEach(() => {
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
    removeItem: (key: string) => kept.delete(key),
  })
})

test('a text is kept for its lab and its way of looking at it', () => {
  const text = { base: 3, written: 'a', text: 'b', at: 7 }
  keep('2026-11-01T10:00:00Z', '', text)
  expect(unapplied('2026-11-01T10:00:00Z', '')).toEqual(text)
  expect(unapplied('2026-11-01T10:00:00Z', 'draft:d')).toBeUndefined()
  expect(unapplied('2026-11-02T10:00:00Z', '')).toBeUndefined()
  keep('2026-11-01T10:00:00Z', '')
  expect(unapplied('2026-11-01T10:00:00Z', '')).toBeUndefined()
})

test('a text that the browser has no room for is said so', () => {
  vi.stubGlobal('localStorage', {
    setItem: () => {
      throw new DOMException('full', 'QuotaExceededError')
    },
  })
  expect(keep('a', '', { base: 1, written: '', text: 'x', at: 0 })).toBe(false)
})

test('lines go under the rack or place they were under', () => {
  const text = 'lab "x"\nrack "Hall": 12U\n3 swich "a"\n4 server "b"\n5 serber "c"\nplace "Loft"\n  camra "d"'
  expect(linesOf(text, [3, 5, 7])).toBe('\nrack "Hall"\n3 swich "a"\n5 serber "c"\n\nplace "Loft"\n  camra "d"\n')
  expect(linesOf(text, [1, 2])).toBe('lab "x"\nrack "Hall": 12U\n')
})
