import { describe, expect, it } from 'vitest'
import { handedOut, labels, plus, tail, wide } from './ruler'

describe('the ruler', () => {
  it('counts addresses over the edge of a part', () => {
    expect(plus('10.20.0.0', 1)).toBe('10.20.0.1')
    expect(plus('10.20.0.255', 1)).toBe('10.20.1.0')
    expect(plus('10.255.255.255', 1)).toBe('11.0.0.0')
    expect(plus('192.168.0.0', 256)).toBe('192.168.1.0')
    expect(tail('10.20.0.96')).toBe('.96')
  })
  it('knows what is handed out', () => {
    const lengths = [
      { from: '10.20.0.0', handed_out: [] },
      { from: '10.20.0.32', handed_out: [[2, 31]] },
    ]
    expect(['10.20.0.2', '10.20.0.33', '10.20.0.34', '10.20.0.63', '10.20.0.64'].map((a) => handedOut(lengths, a))).toEqual([
      false,
      false,
      true,
      true,
      false,
    ])
  })
  it('puts names on two levels and leaves out what has room on neither', () => {
    const there = labels(
      [1, 2, 3].map((at) => ({ at, text: 'a long name' })),
      12,
      400,
    )
    expect(there.map((l) => [l.at, l.level])).toEqual([
      [1, 0],
      [2, 1],
    ])
  })
  it('lets a name at the end go leftwards', () => {
    const [last] = labels([{ at: 31, text: 'choir' }], 12, 384)
    expect(last?.end).toBe(true)
    expect(wide('choir')).toBeLessThan(384)
  })
})
