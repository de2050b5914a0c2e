import { describe, expect, test } from 'vitest'
import type { Run } from '../../draw/network/layout'
import { cutsOf, label, look } from './lenses'

type Link = Run['links'][number]
const run = (...links: Partial<Link>[]): Run => ({
  id: 'r',
  a: 'a',
  b: 'b',
  strands: [],
  points: [],
  links: links.map((l) => ({ a_device_id: 'a', b_device_id: 'b', a_port: '1', b_port: '1', strands: [], ...l })),
})

describe('how a link of the map looks', () => {
  test('through the lens for threads: red where more than one device is cut off, else what takes over', () => {
    const [many, one, spare] = [run({ cuts_off: 7 }), run({ cuts_off: 1 }), run({}, {})]
    expect([many, one, spare].map(cutsOf)).toEqual([7, 1, 0])
    expect([many, one, spare].map((r) => label('threads', r))).toEqual(['cuts off 7', '', ''])
    expect([many, one, spare].map((r) => look('threads', r).colour)).toEqual(['var(--red)', 'var(--soft)', 'var(--water)'])
    expect(look('threads', run({ rests: true })).dash).toBe('2 5')
    expect(look('threads', run({ down: true })).colour, 'what carries nothing takes nothing over').toBe('var(--rule)')
  })

  test('by its speed, which is not made up where it is unknown', () => {
    expect(label('speed', run({}))).toBe('?')
    expect(label('speed', run({ speed_mb: 1000, at_most: true }))).toBe('≤1G')
    expect(label('speed', run({ speed_mb: 2500, aggregate: 'up' }, { speed_mb: 2500, aggregate: 'up' }))).toBe('2 × 2.5G')
    expect(look('speed', run({ speed_mb: 10_000 })).width).toBeGreaterThan(look('speed', run({ speed_mb: 1000 })).width)
  })
})
