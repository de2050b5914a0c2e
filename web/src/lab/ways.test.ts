import { describe, expect, test } from 'vitest'
import { listed, waySays, widthWords, type Way } from './ways'

const hop = (device: string, mb?: number): Way['hops'][number] => ({
  device,
  device_id: device,
  in: '',
  out: '',
  cable_ids: [],
  ...(mb === undefined ? {} : { out_mb: mb }),
})
const way: Way = {
  from: 'desk',
  to: 'silo',
  speed_mb: 2000,
  one_flow_mb: 1000,
  hops: [hop('desk', 2000), hop('core', 10_000), hop('silo')],
  held_by: ['desk/1', 'core/5'],
  standby: ['core/9 - loft/3'],
  may_rest: [],
  length_m: 12,
}

describe('what is said of a way', () => {
  test('its width, or that it is unknown', () => {
    expect(widthWords(way)).toBe('2 Gb/s')
    expect(widthWords({ ...way, at_most: true })).toBe('at most 2 Gb/s')
    expect(widthWords({})).toBe('width unknown')
    expect(widthWords({ why: 'VLAN 20 does not reach desk.' })).toBe('no way')
  })

  test('what holds it down, what one flow gets, what stands by', () => {
    expect(waySays(way)).toEqual([
      'Held down by desk/1 and core/5.',
      'One flow gets 1 Gb/s: of aggregated links it takes one.',
      'core/9 - loft/3 stands by.',
    ])
    const unknown: Way = { from: 'desk', to: 'silo', hops: [hop('desk'), hop('silo')], held_by: [], standby: [], may_rest: [], length_m: 0 }
    expect(waySays(unknown)).toEqual(['Nothing stands by.', 'The speed of one link on it is unknown.'])
    expect(waySays({ ...way, held_by: ['a', 'b', 'c', 'd', 'e'] })[0]).toBe('Held down by a, b, c, d and others.')
    expect(waySays({ ...way, may_rest: ['a - b'] }).at(-1)).toContain('goes over a - b, which may rest')
    expect(waySays({ ...way, why: 'No link leads there.' })).toEqual(['No link leads there.'])
  })

  test('a list as one speaks', () => {
    expect([[], ['a'], ['a', 'b'], ['a', 'b', 'c']].map(listed)).toEqual(['', 'a', 'a and b', 'a, b and c'])
  })
})
