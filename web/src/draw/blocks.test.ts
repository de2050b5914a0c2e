import { describe, expect, it } from 'vitest'
import type { PoolRow } from '../work/useStorage'
import { blocksOf, isNarrow, lengthOf } from './blocks'

const tb = 1e12
const pool = (more: Partial<PoolRow>): PoolRow => ({
  name: 'hold',
  device: 'silo',
  id: 'p',
  device_id: 's',
  on_device_ids: ['s'],
  words: 'RAID-Z1 of 5 x 8 TB',
  raw_bytes: 40 * tb,
  usable_bytes: 32 * tb,
  redundancy_bytes: 8 * tb,
  unused_bytes: 0,
  spare_bytes: 0,
  kept_back_bytes: 0,
  may_fail: { worst: 1, best: 1 },
  may_fail_words: 'any one drive may fail',
  at_least: false,
  drives: [],
  datasets: [],
  copied: true,
  ...more,
})
const said = (p: PoolRow) => blocksOf(p).map((b) => `${b.name} ${b.bytes / tb}${b.says ? ` ${b.says}` : ''}`)

describe('the blocks of a pool', () => {
  it('are what is on it, what is free, what is kept back, redundancy, unused and spare, in order', () => {
    const p = pool({
      kept_back_bytes: tb,
      unused_bytes: 2 * tb,
      spare_bytes: 8 * tb,
      used_bytes: 17 * tb,
      copies_bytes: 3 * tb,
      datasets: [{ name: 'sky', id: 'd', size_bytes: 12 * tb }],
    })
    expect(said(p)).toEqual(['sky 12', 'copies of others 3', 'else 2', 'free 14', 'kept back 1', 'redundancy 8', 'unused 2', 'spare 8'])
  })
  it('say usable while nothing is known to be on it, and used where no dataset is', () => {
    expect(said(pool({}))).toEqual(['usable 32', 'redundancy 8'])
    expect(said(pool({ used_bytes: 4 * tb }))).toEqual(['used 4', 'free 28', 'redundancy 8'])
    expect(said(pool({ used_bytes: 0 }))).toEqual(['free 32', 'redundancy 8'])
  })
  it('let cameras fill what is left, and say for how many days', () => {
    const films = pool({ words: 'mirror of 2 x 32 TB', datasets: [{ name: 'cameras', id: 'c', days_kept: 24.7 }] })
    expect(said(films)).toEqual(['cameras 32 24 days', 'mirrored 8'])
  })
  it('leave out what has no size, and are none while the room is unknown', () => {
    expect(said(pool({ datasets: [{ name: 'letters', id: 'l' }] }))).toEqual(['usable 32', 'redundancy 8'])
    const unknown = pool({})
    delete unknown.usable_bytes
    expect(said(unknown)).toEqual([])
  })
  it('may be longer than the drives where more is on them than there is room for', () => {
    expect(lengthOf(pool({}))).toBe(40 * tb)
    expect(lengthOf(pool({ spare_bytes: 8 * tb }))).toBe(48 * tb)
    expect(lengthOf(pool({ datasets: [{ name: 'sky', id: 'd', size_bytes: 50 * tb }] }))).toBe(58 * tb)
  })
  it('are named beneath where they are too narrow', () => {
    expect(isNarrow(30, 'games', '1.3 TB')).toBe(true)
    expect(isNarrow(80, 'games', '1.3 TB')).toBe(false)
  })
})
