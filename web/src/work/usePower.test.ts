import { describe, expect, test } from 'vitest'
import { wattsOf, wattsWords, type PowerNode } from './usePower'

describe('a power in words', () => {
  test('is whole watts, with a tenth where it is little', () => {
    expect([0, 0.44, 3.26, 9.96, 62.4, 2944].map((w) => wattsWords(w))).toEqual(['0', '0.4', '3.3', '10', '62', '2944'])
  })
  test('says at least where something behind it is unknown, and ? where all is', () => {
    expect(wattsWords(12, 1)).toBe('≥ 12')
    expect(wattsWords(undefined)).toBe('?')
    expect(wattsWords(undefined, 3)).toBe('?')
  })
  test('is that of a level', () => {
    const node = { watts: { typical: 62, most: 290 }, unknown_at: { idle: 1, typical: 0, most: 2, boot: 0 } } as unknown as PowerNode
    expect(wattsOf(node, 'typical')).toBe('62')
    expect(wattsOf(node, 'most')).toBe('≥ 290')
    expect(wattsOf(node, 'idle')).toBe('?')
  })
})
