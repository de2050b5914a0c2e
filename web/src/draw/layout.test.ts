import { describe, expect, test } from 'vitest'
import type { Device, Face, Rack, Schemas } from '../api/client'
import { layoutOf } from './layout'
import { unitMM, type Box } from './scale'

const rack: Rack = { id: 'r', name: 'R', height_u: 9, form: '19in' }
const at = (unit: number, face: Face = 'front', share: Schemas['Share'] = 'whole'): Device['at'] => ({
  where: 'units',
  rack_id: 'r',
  unit,
  face,
  share,
})
const thing = (id: string, where: Device['at'], more: Partial<Device> = {}): Device => ({
  id,
  name: id,
  device_kind: 'server',
  state: 'running',
  takes_u: 1,
  at: where,
  ...more,
})

/** A face at one pixel a millimetre, its inside beginning at 100, 50. */
function layout(face: Face, devices: Device[]) {
  const held = new Map<string, Device[]>()
  for (const d of devices) {
    const on = d.at?.rack_id ?? d.at?.device_id ?? ''
    held.set(on, [...(held.get(on) ?? []), d])
  }
  return layoutOf({ rack, face, held, scale: 1, x: 100, y: 50, posts: { left: 22, right: 10, rail: 10 } })
}
const foot = (p?: { box: Box }) => (p ? p.box.y + p.box.h : NaN)
const right = (p?: { box: Box }) => (p ? p.box.x + p.box.w : NaN)
const ids = (list: { device: Device }[]) => list.map((p) => p.device.id)

describe('where things of a rack are drawn', () => {
  test('units are counted from the foot', () => {
    const { mounted } = layout('front', [thing('low', at(1)), thing('tall', at(8), { takes_u: 2 })])
    expect(mounted.map((p) => [p.device.id, p.box.y, p.box.h])).toEqual([
      ['low', 50 + 8 * unitMM, unitMM],
      ['tall', 50, 2 * unitMM],
    ])
  })

  test('a thing is seen from the other side where nothing is before it and it is no flat one', () => {
    const devices = [
      thing('deep', at(9)),
      thing('panel', at(8), { device_kind: 'patch_panel' }),
      thing('hidden', at(5), { takes_u: 2 }),
      thing('strip', at(6, 'rear')),
    ]
    const rear = layout('rear', devices)
    expect(ids(rear.mounted)).toEqual(['strip'])
    expect(ids(rear.backs)).toEqual(['deep'])
    expect(ids(layout('front', devices).backs)).toEqual([])
  })

  test('what is at the left of the front is at the right of the rear', () => {
    const half = [thing('half', at(4, 'front', 'left half')), thing('third', at(3, 'front', 'middle third'))]
    const [front] = layout('front', half).mounted
    const [rear, middle] = layout('rear', half).backs
    expect(front?.box.x).toBe(100)
    expect(rear?.box.x).toBeCloseTo(100 + 482.6 / 2)
    expect(middle?.box.x).toBeCloseTo(100 + 482.6 / 3)
    const hung = [thing('cable tray', { where: 'left', rack_id: 'r' })]
    expect(layout('front', hung).sides[0]?.box.x).toBeLessThan(100)
    expect(layout('rear', hung).sides[0]?.box.x).toBeGreaterThan(100 + 482.6)
  })

  test('things on a shelf stand on its board, within it, each beside the other', () => {
    const shelf = thing('shelf', at(3), { device_kind: 'shelf', takes_u: 2 })
    const on = (id: string) => thing(id, { where: 'device', device_id: 'shelf' }, { takes_u: undefined, width_mm: 300, height_mm: 40 })
    const { small, mounted } = layout('front', [shelf, on('a'), on('b'), on('c')])
    const [board] = mounted
    expect(ids(small)).toEqual(['a', 'b', 'c'])
    for (const [i, p] of small.entries()) {
      expect(p.box.x).toBeGreaterThan(i ? right(small[i - 1]) : (board?.box.x ?? NaN))
      expect(p.box.x + p.box.w).toBeLessThanOrEqual(right(board))
      expect(p.box.y).toBeGreaterThanOrEqual(board?.box.y ?? NaN)
      expect(foot(p)).toBeLessThan(foot(board))
    }
  })

  test('however many things are on a shelf, each is seen, and what tells it from the others', () => {
    const shelf = thing('shelf', at(3), { device_kind: 'shelf', takes_u: 2 })
    for (const n of [15, 40, 300]) {
      const nodes = Array.from({ length: n }, (_, i) => thing(`node 1-${i + 1}`, { where: 'device', device_id: 'shelf' }, { width_mm: 90 }))
      const { small, mounted } = layout('front', [shelf, ...nodes])
      for (const p of small) expect(p.box.w).toBeGreaterThan(0)
      expect(right(small.at(-1))).toBeLessThanOrEqual(right(mounted[0]))
      expect(small.slice(0, 12).map((p) => p.short)).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9', '10', '11', '12'])
    }
  })

  test('what stands on the rack is above its frame, what lies under it below', () => {
    const { small } = layout('front', [thing('lamp', { where: 'top', rack_id: 'r' }), thing('crate', { where: 'under', rack_id: 'r' })])
    expect(foot(small[0])).toBeLessThan(50 - 10)
    expect(small[1]?.box.y).toBeGreaterThan(50 + 9 * unitMM + 10)
  })

  test('the units of a thing that is not seen from a face are known there too', () => {
    const panel = thing('panel', at(9, 'front', 'left half'), { device_kind: 'patch_panel' })
    const rear = layout('rear', [panel])
    expect(rear.backs).toEqual([])
    expect(rear.unitsOf(panel)).toMatchObject({ y: 50, h: unitMM })
    expect(rear.unitsOf(panel).x).toBeCloseTo(100 + 482.6 / 2)
  })

  test('what is in a drawer is not drawn', () => {
    const drawer = thing('drawer', at(2), { device_kind: 'drawer', takes_u: 2 })
    expect(layout('front', [drawer, thing('crimper', { where: 'device', device_id: 'drawer' })]).small).toEqual([])
  })
})
