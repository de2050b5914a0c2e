import { describe, expect, test } from 'vitest'
import { kinds } from '../card/choices'
import type { Device, Schemas } from '../api/client'
import { dayOf, days, height, kg, kindShort, kindWords, mm, title, today, unitNumber, unitRange } from './words'
import { stateOf, type LabState } from './useLab'

const rack = { id: 'r', name: 'Pantry', height_u: 24 }
const lab = (end: 'top' | 'bottom' = 'bottom'): LabState =>
  stateOf({
    revision: 1,
    view: { kind: 'built' },
    settings: { id: 'lab', unit_numbering: end },
    places: [],
    racks: [rack],
    devices: [],
  })
const at = (spot: Device['at'], takes_u = 1): Device => ({ id: 'd', device_kind: 'server', state: 'running', takes_u, at: spot })

test('kinds are spelled as the trade does', () => {
  const spelled: Partial<Record<Schemas['DeviceKind'], string>> = {
    nas: 'NAS',
    ups: 'UPS',
    pdu: 'PDU',
    kvm_switch: 'KVM switch',
    mini_pc: 'mini PC',
    single_board_computer: 'single-board computer',
    patch_panel: 'patch panel',
  }
  for (const [kind, words] of Object.entries(spelled)) expect(kindWords(kind as Schemas['DeviceKind'])).toBe(words)
  for (const kind of kinds) expect(kindShort(kind).length).toBeLessThanOrEqual(kindWords(kind).length)
  expect(kinds).toHaveLength(43)
})

test('a thing without a name is called by its kind', () => {
  expect(title(at(undefined))).toBe('server')
  expect(title({ ...at(undefined), name: 'anvil' })).toBe('anvil')
})

describe('units', () => {
  test('are numbered from either end', () => {
    expect(unitNumber(lab(), rack, 1)).toBe(1)
    expect(unitNumber(lab('top'), rack, 1)).toBe(24)
    expect(unitRange(lab(), rack, 12, 2)).toBe('12-13')
    expect(unitRange(lab('top'), rack, 12, 2)).toBe('12-13') // 12 and 13 of 24 from the foot are 13 and 12 from the head
    expect(unitRange(lab('top'), rack, 1, 1)).toBe('24')
  })
})

test('measures are written with their units', () => {
  expect(mm(444.5)).toBe('444.5 mm')
  expect(mm(1200)).toBe('1200 mm')
  expect(kg(4.082)).toBe('4.082 kg')
  expect(height(88.9)).toBe('2U')
  expect(height(66.68)).toBe('1.5U')
  expect(height(430)).toBe('430 mm')
})

describe('days', () => {
  test('a day is where the clock hangs', () => {
    expect(dayOf(new Date(2026, 0, 5, 23, 59))).toBe('2026-01-05')
    expect(days('2026-11-23')).toBe('23 Nov 2026')
    expect(today()).toMatch(/^\d{4}-\d\d-\d\d$/)
  })
})
