import { describe, expect, it } from 'vitest'
import { joined, wide } from './layout'

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
})
