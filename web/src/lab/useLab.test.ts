import { describe, expect, test } from 'vitest'
import type { Delta, Device } from '../api/client'
import { heldIn, stateOf, withDelta, type LabState } from './useLab'

const device = (id: string, at?: Device['at'], more: Partial<Device> = {}): Device => ({
  id,
  device_kind: 'server',
  state: 'running',
  at,
  ...more,
})

const view = { kind: 'built' } as const

const lab = (...devices: Device[]): LabState =>
  stateOf({
    revision: 7,
    undo: 'a',
    redo: 'b',
    view,
    places: [{ id: 'p', name: 'Loft' }],
    racks: [{ id: 'r', name: 'Pantry', height_u: 24 }],
    devices,
  })

describe('a delta', () => {
  const before = lab(device('a'), device('b'))
  const delta: Delta = {
    revision: 8,
    view,
    undo: 'c',
    devices: [device('a', undefined, { name: 'anvil' }), device('c')],
    places: [{ id: 'q', name: 'Shed' }],
    removed: [
      { kind: 'device', id: 'b' },
      { kind: 'place', id: 'p' },
    ],
  }

  test('puts, adds and removes, and tells what can be undone now', () => {
    const after = withDelta(before, delta)
    expect([...after.devices.keys()]).toEqual(['a', 'c'])
    expect(after.devices.get('a')?.name).toBe('anvil')
    expect([...after.places.values()].map((p) => p.name)).toEqual(['Shed'])
    expect(after).toMatchObject({ revision: 8, undo: 'c', redo: '' })
  })

  test('takes every kind of record, plans and all', () => {
    const after = withDelta(before, {
      revision: 8,
      view,
      drafts: [{ id: 'q', name: 'Quiet' }],
      steps: [{ id: 's', draft_id: 'q', changes: [] }],
      notes: [{ id: 'n', day: '2026-11-23', text: 'dusted' }],
    })
    expect(after.drafts.get('q')?.name).toBe('Quiet')
    expect(after.steps.size).toBe(1)
    expect(withDelta(after, { revision: 9, view, removed: [{ kind: 'step', id: 's' }] }).steps.size).toBe(0)
    expect(after.racks).toBe(before.racks)
  })

  test('leaves the lab before as it was', () => {
    withDelta(before, delta)
    expect(before.devices.size).toBe(2)
    expect(before.places.get('p')?.name).toBe('Loft')
    expect(before.revision).toBe(7)
  })

  test('without settings keeps those there are', () => {
    expect(withDelta(before, { revision: 8, view }).settings).toBe(before.settings)
    expect(withDelta(before, { revision: 8, view, settings: { id: 'lab', unit_numbering: 'top' } }).settings.unit_numbering).toBe('top')
  })
})

describe('what holds what', () => {
  const shelved = lab(device('shelf'), device('finch'), device('ap'))
  const told = withDelta(shelved, {
    revision: 8,
    view,
    holdings: [
      { holder_id: 'shelf', rack_id: 'r', device_ids: ['finch', 'ap', 'gone'] },
      { holder_id: 'p', place_id: 'p', device_ids: [] },
    ],
  })

  test('is as the server says, in its order', () => {
    expect([...heldIn(shelved)]).toEqual([])
    expect(
      heldIn(told)
        .get('shelf')
        ?.map((d) => d.id),
    ).toEqual(['finch', 'ap'])
    expect(heldIn(told).get('p')).toEqual([])
  })

  test('is sent again only where a change made it different', () => {
    const after = withDelta(told, { revision: 9, view, holdings: [{ holder_id: 'p', place_id: 'p', device_ids: ['ap'] }] })
    expect(
      heldIn(after)
        .get('p')
        ?.map((d) => d.id),
    ).toEqual(['ap'])
    expect(after.holdings.get('shelf')).toBe(told.holdings.get('shelf'))
    expect(told.holdings.get('p')?.device_ids).toEqual([])
  })
})
