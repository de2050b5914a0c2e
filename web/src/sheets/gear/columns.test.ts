import { describe, expect, test } from 'vitest'
import type { Device } from '../../api/client'
import { stateOf } from '../../lab/useLab'
import { columns, rowsOf, type Row } from './columns'

const devices: Device[] = [
  { id: 'a', name: 'anvil', device_kind: 'server', state: 'running', takes_u: 2, height_mm: 88.9, depth_mm: 710, weight_kg: 24, purpose: 'the choir library', at: { where: 'units', rack_id: 'r', unit: 12, face: 'front', share: 'whole' } },
  { id: 'b', device_kind: 'single_board_computer', state: 'spare', notes: 'found in a box' },
]
const lab = stateOf({ revision: 1, view: { kind: 'built' }, racks: [{ id: 'r', name: 'Pantry', height_u: 24 }], devices })
const [anvil, pi] = rowsOf(lab) as [Row, Row]
const column = (name: string) => columns.find((c) => c.name === name) ?? columns[0]

describe('the table of everything', () => {
  test('says each fact in its own unit, and nothing for what is not known', () => {
    expect(columns.map((c) => c.say(anvil))).toEqual(['anvil', 'server', 'running', 'Pantry U12–13', '2U', '2U', '710', '24', 'the choir library'])
    expect(columns.map((c) => c.say(pi))).toEqual([undefined, 'single-board computer', 'spare', undefined, undefined, undefined, undefined, undefined, undefined])
  })

  test('starts a field with what could be typed there', () => {
    expect(column('where').typed?.(anvil)).toBe('12-13')
    expect(column('where').typed?.(pi)).toBe('?')
    expect(column('kind').typed?.(pi)).toBe('single-board computer')
  })

  test('sorts a thing without a name by what it is, and what is unknown by nothing', () => {
    expect(column('name').sort(pi)).toBe('single-board computer')
    expect(column('where').sort(pi)).toBeUndefined()
    expect(column('deep').sort(anvil)).toBe(710)
  })

  test('is searched by all of it, notes too', () => {
    expect(pi.text).toContain('found in a box')
    expect(anvil.text).toContain('pantry u12–13')
  })

  test('every column but none edits a fact that the server knows', () => {
    expect(columns.map((c) => c.field)).toEqual(['name', 'device_kind', 'state', 'at', 'takes_u', 'height_mm', 'depth_mm', 'weight_kg', 'purpose'])
  })
})
