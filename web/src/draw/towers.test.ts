import { expect, test } from 'vitest'
import { high, leastOf, scaleFor, towerHigh } from './towers'

const gb = 2 ** 30
const guest = (takes: number | undefined, inside = 0, running = true) => ({
  ...(takes === undefined ? {} : { takes_bytes: takes * gb }),
  running,
  inside: Array.from({ length: inside }, () => ({})) as never[],
})
const host = (left: number, kept: number, ...tower: ReturnType<typeof guest>[]) => ({
  tower: tower as never[],
  left_bytes: left * gb,
  kept_bytes: kept * gb,
})

test('a block is as high as its memory, and no lower than what is in it', () => {
  expect(high(8 * gb, 10)).toBe(80)
  expect(high(undefined, 10, 24)).toBe(24)
  expect([leastOf(guest(1)), leastOf(guest(1, 1)), leastOf(guest(1, 3))]).toEqual([24, 47, 70])
})

test('a tower is what is kept, given and left', () => {
  expect(towerHigh(host(4, 6, guest(16), guest(1)), 5)).toBe(20 + 30 + 80 + 24)
  expect(towerHigh(host(-2, 0, guest(16)), 5)).toBe(80 + 18)
  expect(towerHigh(host(4, 0, guest(8, 0, false)), 5)).toBe(20 + 30)
})

test('the highest tower fits, and the scale is no smaller than that takes', () => {
  const hosts = [host(20, 6, guest(24, 6), guest(16), guest(1)), host(-4, 1, guest(12), guest(undefined))]
  for (const room of [200, 400, 900]) {
    const perGB = scaleFor(hosts, room)
    expect(Math.max(...hosts.map((h) => towerHigh(h, perGB)))).toBeLessThanOrEqual(room)
    expect(perGB === 24 || Math.max(...hosts.map((h) => towerHigh(h, perGB * 1.05))) > room).toBe(true)
  }
  expect(scaleFor([host(0, 0, ...Array.from({ length: 80 }, () => guest(1)))], 400)).toBe(0.25)
})
