import { describe, expect, test } from 'vitest'
import type { Device, Schemas } from '../api/client'
import { fedBy, pooled, through } from './lens'

const today = new Date('2026-11-23T12:00:00')
const sheets = new Map([['r', { id: 'r', name: 'R', device_kind: 'server' as const, noise_db: 46 }]])
const device = (more: Partial<Device>): Device => ({ id: 'a', device_kind: 'server', state: 'running', ...more })
const word = (lens: Parameters<typeof through>[0], d: Device) => through(lens, d, sheets, today)?.word

describe('a lens', () => {
  test('leaves things plain, or says its word beside the colour', () => {
    expect(through('plain', device({}), sheets, today)).toBeUndefined()
    expect(word('state', device({ state: 'faulty' }))).toBe('faulty')
    expect(word('weight', device({ weight_kg: 24 }))).toBe('24 kg')
    expect(word('noise', device({ sheet_id: 'r' }))).toBe('46 dB')
    expect(word('age', device({ bought_on: '2024-03', warranty_until: '2027-03' }))).toBe('2024 · to 2027-03')
    expect(word('age', device({ bought_on: '2020', warranty_until: '2025' }))).toBe('2020 · over')
  })

  test('shows what is unknown as unknown, never as little', () => {
    expect(word('weight', device({}))).toBe('?')
    expect(word('noise', device({}))).toBe('?')
    expect(word('noise', device({ device_kind: 'blanking_panel' }))).toBe('')
    expect(through('weight', device({ weight_kg: 0.1 }), sheets, today)?.fill).not.toBe(through('weight', device({}), sheets, today)?.fill)
  })

  test('is darker for more', () => {
    expect(through('noise', device({ noise_db: 55 }), sheets, today)?.dark).toBe(true)
    expect(through('noise', device({ noise_db: 22 }), sheets, today)?.dark).toBe(false)
  })
})

describe('the lens of feeds', () => {
  const node = (more: Partial<Schemas['PowerNode']>) =>
    ({ id: 'a', kind: 'device', name: 'anvil', state: 'running', hangs_on: [], supplies: [], ...more }) as Schemas['PowerNode']
  const keep = node({ id: 'k', kind: 'ups', name: 'keep' })
  const see = (n: Schemas['PowerNode']) => fedBy(n.id, new Map([keep, n].map((o) => [o.id, o])))
  test('names what it hangs on, and says when one leg of several is plugged in', () => {
    expect(see(node({ hangs_on: ['k'] }))?.word).toBe('keep')
    const one = see(node({ hangs_on: ['k'], one_leg: true }))
    expect(one?.word).toBe('keep · one leg')
    expect(one?.fill).toContain('--red')
    expect(see(node({}))?.word).toBe('fed by ?')
    expect(fedBy('panel', new Map())?.word).toBe('')
  })
})

describe('the lens of pools', () => {
  const pool = (more: Partial<Schemas['PoolRow']>) =>
    ({ name: 'hold', on_device_ids: ['a'], usable_bytes: 10e12, kept_back_bytes: 0, ...more }) as Schemas['PoolRow']
  test('says how full the pools of a thing are, and red where one is past 80 %', () => {
    expect(pooled('a', [pool({ used_bytes: 3e12 })]).word).toBe('hold 30 %')
    expect(pooled('a', [pool({ used_bytes: 3e12 }), pool({ name: 'eyes' })]).word).toBe('hold 30 %, eyes ?')
    expect(pooled('a', [pool({ used_bytes: 8.5e12 })]).fill).toContain('--red')
    expect(pooled('b', [pool({})]).word).toBe('')
  })
})
