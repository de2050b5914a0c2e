import { describe, expect, test } from 'vitest'
import { heldWords, legWords, reachWords, speedWords, trailBad, trailFrom, trailLength, trailSpeed, trailWords, type Trail } from './trails'

const stop = (title: string, port: string): Trail['stops'][number] => ({ device_id: title, title, port, kind: 'device' })
const piece = (id: string, length?: number): Trail['pieces'][number] => ({
  cable_id: id,
  state: 'in_use',
  ...(length === undefined ? {} : { length_m: length }),
})

/** core 3, a panel, the loft; 18.25 m at 1 Gb/s, held by the switch. */
const loft: Trail = {
  stops: [stop('core', '3'), stop('PP1', '3'), stop('loft ap', '1')],
  pieces: [piece('a', 0.25), piece('b', 18)],
  end: 'port',
  length_m: 18.25,
  unmeasured: 0,
  speed: { mb: 1000, held_by: 'core 3', rest_mb: 10_000 },
}

describe('what is said of a trail', () => {
  test('its speed, in the larger unit from a thousand on', () => {
    expect([10, 100, 1000, 2500, 10_000, 100_000].map(speedWords)).toEqual([
      '10 Mb/s',
      '100 Mb/s',
      '1 Gb/s',
      '2.5 Gb/s',
      '10 Gb/s',
      '100 Gb/s',
    ])
    expect(trailSpeed(loft)).toBe('1 Gb/s')
    expect(trailSpeed({ ...loft, speed: { mb: 2500, at_most: true } })).toBe('≤ 2.5 Gb/s')
    expect(trailSpeed({ ...loft, speed: {} })).toBe('')
    expect(trailSpeed({ ...loft, speed: { mb: 0 } })).toBe('no link')
  })

  test('each cable on the way, as far as it is known', () => {
    expect(legWords({ ...piece('a', 0.25), label: 'PP1.03', colour: 'yellow', cable_kind: 'cat6' }, 'Cat 6')).toBe(
      'PP1.03, yellow Cat 6, 0.25 m',
    )
    expect(legWords({ ...piece('b', 18), cable_kind: 'cat6', run: 'stairs run' }, 'Cat 6')).toBe('Cat 6, 18 m, stairs run')
    expect(legWords(piece('c'), '')).toBe('a cable')
  })

  test('where it does not end at a port, how it ends comes before any speed', () => {
    expect(trailSpeed({ ...loft, end: 'nothing' })).toBe('goes no further')
    expect(trailSpeed({ ...loft, end: 'open' })).toBe('not found')
    expect(trailSpeed({ ...loft, end: 'loop' })).toBe('round in a circle')
    expect(trailSpeed({ ...loft, end: 'open', broken: ['PP1 3'] })).toBe('broken')
  })

  test('its length, and no more than is known of it', () => {
    expect(trailLength(loft)).toBe('18.25 m')
    expect(trailLength({ ...loft, length_m: 0.1 + 0.2, unmeasured: 1 })).toBe('≥ 0.3 m')
    expect(trailLength({ ...loft, length_m: 0, unmeasured: 2 })).toBe('? m')
    expect(trailLength({ ...loft, pieces: [{ ...piece('w'), cable_kind: 'wireless' }], length_m: 0, unmeasured: 1 })).toBe('wireless')
  })

  test('only what keeps it from working is bad', () => {
    expect(trailBad(loft)).toBe(false)
    expect(trailBad({ ...loft, end: 'nothing' })).toBe(false)
    expect(trailBad({ ...loft, speed: {} })).toBe(false)
    for (const worse of [{ end: 'open' }, { end: 'loop' }, { broken: ['a'] }, { speed: { mb: 0 } }] as Partial<Trail>[])
      expect(trailBad({ ...loft, ...worse })).toBe(true)
  })

  test('where one comes out, and how that way ends', () => {
    expect(reachWords(stop('loft ap', '1'), 'port')).toBe('loft ap 1')
    expect(reachWords(stop('Dome plate', '1'), 'nothing')).toBe('Dome plate 1, and no further')
    expect(reachWords(stop('PP1', '8'), 'loop')).toBe('PP1 8, round in a circle')
    expect(reachWords(undefined, 'open')).toBe('')
  })

  test('what holds it down, and what the rest would carry', () => {
    expect(heldWords(loft)).toBe('1 Gb/s by core 3; the rest would carry 10 Gb/s')
    expect(heldWords({ ...loft, speed: { mb: 100, at_most: true } })).toBe('at most 100 Mb/s')
    expect(heldWords({ ...loft, speed: { mb: 0 } })).toBe('nothing: no speed in common')
    expect(heldWords({ ...loft, speed: {} })).toBe('')
    expect(heldWords({ ...loft, speed: { mb: 1000, held_by: 'a wire' } }), 'an unknown rest is not mentioned').toBe('1 Gb/s by a wire')
  })

  test('the whole of it read out, nothing twice', () => {
    expect(trailWords(loft)).toBe('core 3, PP1 3, loft ap 1; 1 Gb/s; 18.25 m')
    expect(trailWords({ ...loft, end: 'loop', speed: {} })).toBe('core 3, PP1 3, loft ap 1; round in a circle; 18.25 m')
  })

  test('it begins in the device one asks from, where it ends there', () => {
    expect(trailFrom(loft, 'core')).toBe(loft)
    expect(trailFrom(loft, 'loft ap').stops.map((s) => s.title)).toEqual(['loft ap', 'PP1', 'core'])
    expect(trailFrom(loft, 'loft ap').pieces.map((p) => p.cable_id)).toEqual(['b', 'a'])
    expect(trailFrom(loft, 'PP1'), 'a panel is no end of it').toBe(loft)
  })
})
