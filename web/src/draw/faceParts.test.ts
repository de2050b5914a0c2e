import { describe, expect, test } from 'vitest'
import { cellsOf, specOf } from './faceParts'

const room = { w: 240, h: 88 }

describe('what a face shows', () => {
  test('is what the spec says is there, on that face', () => {
    const spec = { ports: [{ count: 4, connector: 'rj45', face: 'rear' as const }], bays: [{ count: 8, form: '3.5in' as const }, { count: 2, form: '2.5in' as const, side: 'rear' as const }], supply_bays: 2 }
    expect(cellsOf(spec, 'front', room).map((c) => `${c.kind} ${c.seat}`)).toEqual([1, 2, 3, 4, 5, 6, 7, 8].map((n) => `bay ${n}`))
    const rear = cellsOf(spec, 'rear', room)
    expect(rear.filter((c) => c.kind === 'jack')).toHaveLength(4)
    expect(rear.filter((c) => c.kind === 'bay').map((c) => c.seat)).toEqual([9, 10])
    expect(rear.filter((c) => c.kind === 'supply')).toHaveLength(2)
    expect(cellsOf({ bays: [{ count: 3, form: 'm.2', side: 'inside' }] }, 'front', room)).toEqual([])
  })

  test('stays within its room, however much there is', () => {
    for (const count of [1, 12, 24, 48, 512]) {
      for (const c of cellsOf({ ports: [{ count, connector: 'rj45', rows: 2 }, { count: 4, connector: 'sfp+' }], outlets: [{ count: 8, connector: 'c13' }] }, 'front', { w: 200, h: 43 })) {
        expect(c.x).toBeGreaterThanOrEqual(-0.001)
        expect(c.x + c.w).toBeLessThanOrEqual(200.001)
        expect(c.y).toBeGreaterThanOrEqual(0)
        expect(c.y + c.h).toBeLessThanOrEqual(43)
      }
    }
  })

  test('odd ports are above even ones, and bays are counted along their rows', () => {
    const [one, two, three] = cellsOf({ ports: [{ count: 24, connector: 'rj45', rows: 2, numbering: 'down' }] }, 'front', { w: 300, h: 43 })
    expect(two?.x).toBe(one?.x)
    expect(two?.y).toBeGreaterThan(one?.y ?? 0)
    expect(three?.x).toBeGreaterThan(one?.x ?? 0)
    const bays = cellsOf({ bays: [{ count: 8, form: '3.5in' }] }, 'front', room)
    expect(bays[1]?.y).toBe(bays[0]?.y)
    expect(bays[4]?.y).toBeGreaterThan(bays[0]?.y ?? 0)
  })

  test('a device says itself what differs from its sheet', () => {
    const sheets = new Map([['r', { id: 'r', name: 'R', device_kind: 'server' as const, depth_mm: 700, bays: [{ count: 4, form: '3.5in' as const }] }]])
    const spec = specOf({ id: 'a', device_kind: 'server', state: 'running', sheet_id: 'r', depth_mm: 710 }, sheets)
    expect([spec.depth_mm, spec.bays?.[0]?.count]).toEqual([710, 4])
  })
})
