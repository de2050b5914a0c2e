import { describe, expect, test } from 'vitest'
import type { Comparison, Device } from '../api/client'
import { marksOf } from './marks'

const at = (unit: number, rack_id = 'r', face: 'front' | 'rear' = 'front'): Device['at'] => ({
  where: 'units',
  rack_id,
  unit,
  face,
  share: 'whole',
})
const device = (id: string, spot?: Device['at'], more: Partial<Device> = {}): Device => ({
  id,
  device_kind: 'server',
  state: 'running',
  takes_u: 1,
  at: spot,
  ...more,
})
const compared = (...devices: { before?: Device; after?: Device }[]) => ({ devices }) as unknown as Comparison

describe('what a rack differs in', () => {
  test('is nothing where nothing is compared', () => {
    expect(marksOf(undefined, 'r')).toEqual({ came: new Set(), went: [], moved: [] })
  })

  test('a thing that is new comes, one that is gone goes', () => {
    const marks = marksOf(compared({ after: device('new', at(3)) }, { before: device('old', at(4)) }), 'r')
    expect([...marks.came]).toEqual(['new'])
    expect(marks.went.map((d) => d.id)).toEqual(['old'])
  })

  test('a thing from another rack, a place or nowhere comes', () => {
    const marks = marksOf(
      compared(
        { before: device('a', at(3, 's')), after: device('a', at(3)) },
        { before: device('b'), after: device('b', at(5)) },
        { before: device('c', { where: 'place', place_id: 'p' }), after: device('c', at(6)) },
      ),
      'r',
    )
    expect([...marks.came]).toEqual(['a', 'b', 'c'])
    expect(marksOf(compared({ before: device('a', at(3, 's')), after: device('a', at(3)) }), 's').went.map((d) => d.id)).toEqual(['a'])
  })

  test('a thing that is elsewhere in the rack moves, also from front to rear, and so does one that takes more', () => {
    const marks = marksOf(
      compared(
        { before: device('a', at(3)), after: device('a', at(5)) },
        { before: device('b', at(7)), after: device('b', at(7, 'r', 'rear')) },
        { before: device('c', at(8)), after: device('c', at(8), { takes_u: 2 }) },
      ),
      'r',
    )
    expect(marks.moved.map((m) => m.to.id)).toEqual(['a', 'b', 'c'])
    expect(marks.moved[0]?.from.at?.unit).toBe(3)
  })

  test('a thing that is only called otherwise has no mark', () => {
    const marks = marksOf(compared({ before: device('a', at(3)), after: device('a', at(3), { name: 'hammer' }) }), 'r')
    expect(marks).toEqual({ came: new Set(), went: [], moved: [] })
  })

  test('a new thing on a shelf is new, one that was moved onto it is gone from its units', () => {
    const on: Device['at'] = { where: 'device', device_id: 'shelf' }
    const marks = marksOf(compared({ after: device('lark', on) }, { before: device('finch', at(9)), after: device('finch', on) }), 'r')
    expect([...marks.came]).toEqual(['lark'])
    expect(marks.went.map((d) => d.id)).toEqual(['finch'])
  })
})
