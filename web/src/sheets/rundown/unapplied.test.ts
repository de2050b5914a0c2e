import { beforeEach, expect, test, vi } from 'vitest'
import { keep, unapplied } from './unapplied'

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
