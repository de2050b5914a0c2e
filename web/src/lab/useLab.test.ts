import { describe, expect, test } from 'vitest'
import type { Delta, Device } from '../api/client'
import { heldIndex, holderOf, stateOf, withDelta, type LabState } from './useLab'

const device = (id: string, at?: Device['at'], more: Partial<Device> = {}): Device => ({ id, device_kind: 'server', state: 'running', at, ...more })
const inUnits = (unit: number, more: Partial<Device> = {}, face: 'front' | 'rear' = 'front') => device(`u${unit}${face}`, { where: 'units', rack_id: 'r', unit, face, share: 'whole' }, more)

const view = { kind: 'built' } as const

const lab = (...devices: Device[]): LabState =>
  stateOf({ revision: 7, undo: 'a', redo: 'b', view, places: [{ id: 'p', name: 'Loft' }], racks: [{ id: 'r', name: 'Pantry', height_u: 24 }], devices })

describe('a delta', () => {
  const before = lab(device('a'), device('b'))
  const delta: Delta = {
    revision: 8,
    view,
    undo: 'c',
    devices: [device('a', undefined, { name: 'anvil' }), device('c')],
    places: [{ id: 'q', name: 'Shed' }],
    removed: [{ kind: 'device', id: 'b' }, { kind: 'place', id: 'p' }],
  }

  test('puts, adds and removes, and tells what can be undone now', () => {
    const after = withDelta(before, delta)
    expect([...after.devices.keys()]).toEqual(['a', 'c'])
    expect(after.devices.get('a')?.name).toBe('anvil')
    expect([...after.places.values()].map((p) => p.name)).toEqual(['Shed'])
    expect(after).toMatchObject({ revision: 8, undo: 'c', redo: '' })
  })

  test('takes every kind of record, plans and all', () => {
    const after = withDelta(before, { revision: 8, view, drafts: [{ id: 'q', name: 'Quiet' }], steps: [{ id: 's', draft_id: 'q', changes: [] }], notes: [{ id: 'n', day: '2026-11-23', text: 'dusted' }] })
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
  test('units come from the top down, by the unit they reach up to', () => {
    const index = heldIndex(lab(inUnits(1, { takes_u: 2 }), inUnits(9, { takes_u: 3 }), inUnits(12), inUnits(5, {}, 'rear'), inUnits(5)))
    expect(index.get('r')?.map((d) => d.id)).toEqual(['u12front', 'u9front', 'u5front', 'u5rear', 'u1front'])
  })

  test('what is in no units keeps its order, whatever it would take', () => {
    const top = (id: string, order: number, takes_u?: number) => device(id, { where: 'top', rack_id: 'r', order }, { takes_u })
    expect(heldIndex(lab(top('a', 2), top('b', 1), top('c', 3, 4))).get('r')?.map((d) => d.id)).toEqual(['b', 'a', 'c'])
  })

  test('things stand on devices, at places or nowhere', () => {
    const index = heldIndex(lab(device('shelf'), device('finch', { where: 'device', device_id: 'shelf' }), device('ap', { where: 'place', place_id: 'p' })))
    expect(index.get('shelf')?.map((d) => d.id)).toEqual(['finch'])
    expect(index.get('p')?.map((d) => d.id)).toEqual(['ap'])
    expect(index.get('')?.map((d) => d.id)).toEqual(['shelf'])
    expect(holderOf({ where: 'left', rack_id: 'r' })).toBe('r')
    expect(holderOf(undefined)).toBe('')
  })
})
