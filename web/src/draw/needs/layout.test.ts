import { describe, expect, it } from 'vitest'
import { joined, sentence, sorted, wide } from './layout'

describe('the picture of what needs what', () => {
  it('draws two links between the same two as one line, whole where one of them is', () => {
    expect(
      joined([
        { of: 'a', to: 'b', how: 'runs on' },
        { of: 'a', to: 'b', how: 'wants', soft: true, or: true },
        { of: 'b', to: 'a', how: 'needs', or: true },
      ]),
    ).toEqual([
      { of: 'a', to: 'b', how: 'runs on, wants', soft: undefined, or: undefined },
      { of: 'b', to: 'a', how: 'needs', or: true },
    ])
  })

  it('gives a name its room, and a folded stack that of its number too', () => {
    const node = { id: 'a', record_kind: 'stack', kind: 'stack', title: 'the choir and its music', to: '' } as const
    expect(wide(node)).toBe(166)
    expect(wide({ ...node, holds: 12 })).toBe(191)
    expect(wide({ ...node, title: 'a' })).toBe(56)
  })

  it('puts what matters alike in the order of what it leads to, and what leads nowhere where it is', () => {
    const node = (id: string, worth?: 'household' | 'lab') =>
      ({ id, worth, record_kind: 'service', kind: 'service', title: id, to: '' }) as const
    const lines = [
      { of: 'a', to: 'low', how: 'runs in' },
      { of: 'b', to: 'high', how: 'runs in' },
      { of: 'b', to: 'low', how: 'needs' },
    ]
    const at: Record<string, number> = { a: 0, b: 0, c: 40, d: 10, low: 100, high: 20 }
    const list = [node('a', 'household'), node('b', 'household'), node('c', 'household'), node('d', 'lab')]
    expect(sorted(list, lines, (id) => at[id] ?? 0).map((n) => n.id)).toEqual(['c', 'b', 'a', 'd'])
  })

  it('says a need in a sentence', () => {
    const title = (id: string) => `the ${id}`
    expect(sentence({ of: 'a', to: 'b', how: 'wants', soft: true, or: true }, title)).toBe(
      'the a wants the b, or another, and goes on without',
    )
    expect(sentence({ of: 'a', to: 'b', how: 'runs on' }, title)).toBe('the a runs on the b')
  })
})
