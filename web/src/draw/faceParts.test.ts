import { describe, expect, test } from 'vitest'
import type { Device } from '../api/client'
import { bodyBox, cellsOf, cellsOn, specOf } from './faceParts'

const room = { w: 240, h: 88 }

describe('what a face shows', () => {
  test('is what the spec says is there, on that face', () => {
    const spec = {
      ports: [{ count: 4, connector: 'rj45', face: 'rear' as const }],
      bays: [
        { count: 8, form: '3.5in' as const },
        { count: 2, form: '2.5in' as const, side: 'rear' as const },
      ],
      supply_bays: 2,
    }
    expect(cellsOf(spec, 'front', room).map((c) => `${c.kind} ${c.seat}`)).toEqual([1, 2, 3, 4, 5, 6, 7, 8].map((n) => `bay ${n}`))
    const rear = cellsOf(spec, 'rear', room)
    expect(rear.filter((c) => c.kind === 'jack')).toHaveLength(4)
    expect(rear.filter((c) => c.kind === 'bay').map((c) => c.seat)).toEqual([9, 10])
    expect(rear.filter((c) => c.kind === 'supply')).toHaveLength(2)
    expect(cellsOf({ bays: [{ count: 3, form: 'm.2', side: 'inside' }] }, 'front', room)).toEqual([])
  })

  test('stays within its room, however much there is', () => {
    for (const count of [1, 12, 24, 48, 512]) {
      for (const c of cellsOf(
        {
          ports: [
            { count, connector: 'rj45', rows: 2 },
            { count: 4, connector: 'sfp+' },
          ],
          outlets: [{ count: 8, connector: 'c13' }],
        },
        'front',
        { w: 200, h: 43 },
      )) {
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
    const sheets = new Map([
      ['r', { id: 'r', name: 'R', device_kind: 'server' as const, depth_mm: 700, bays: [{ count: 4, form: '3.5in' as const }] }],
    ])
    const spec = specOf({ id: 'a', device_kind: 'server', state: 'running', sheet_id: 'r', depth_mm: 710 }, sheets)
    expect([spec.depth_mm, spec.bays?.[0]?.count]).toEqual([710, 4])
  })
})

describe('where a face is plugged into', () => {
  test('groups are counted as the wiring counts them: ports, then outlets, whatever their face', () => {
    const spec = {
      ports: [
        { count: 2, connector: 'rj45' },
        { count: 1, connector: 'console', face: 'rear' as const },
        { count: 2, connector: 'sfp+' },
      ],
      outlets: [{ count: 3, connector: 'c13', face: 'rear' as const }],
      bays: [{ count: 1, form: '2.5in' as const }],
    }
    const key = (face: 'front' | 'rear') => cellsOf(spec, face, room).map((c) => `${c.kind} ${c.group}.${c.index}`)
    expect(key('front')).toEqual(['jack 0.0', 'jack 0.1', 'cage 2.0', 'cage 2.1', 'bay -1.0'])
    expect(key('rear')).toEqual(['jack 1.0', 'outlet 3.0', 'outlet 3.1', 'outlet 3.2'])
  })

  test('ports that nobody said the numbering of run along each row', () => {
    const [one, two, , three] = cellsOf({ ports: [{ count: 6, connector: 'rj45', rows: 2 }] }, 'front', { w: 300, h: 43 })
    expect(two?.y).toBe(one?.y)
    expect(two?.x).toBeGreaterThan(one?.x ?? 0)
    expect(three?.x).toBe(one?.x)
    expect(three?.y).toBeGreaterThan(one?.y ?? 0)
  })

  test('a thing lower than its units stands at their foot, and its ports with it', () => {
    const box = { x: 10, y: 100, w: 400, h: 89 }
    const low: Device = { id: 'a', device_kind: 'mini_pc', state: 'running', height_mm: 40 }
    const body = bodyBox(low, box, 1)
    expect(body.y + body.h).toBeCloseTo(box.y + box.h - 0.75)
    expect(body.h).toBe(38.5)
    expect(bodyBox({ ...low, height_mm: 500 }, box, 1).h, 'no higher than its units').toBe(87.5)
    expect(bodyBox({ ...low, height_mm: undefined }, box, 1).h).toBe(87.5)
    for (const c of cellsOn({ ...low, bays: [{ count: 4, form: '3.5in' }] }, body, 1, 'front')) {
      expect(c.y).toBeGreaterThan(body.y)
      expect(c.x).toBeGreaterThan(body.x)
      expect(c.x + c.w).toBeLessThan(body.x + body.w)
    }
    expect(cellsOn({ ...low, bays: [{ count: 4, form: '3.5in' }] }, { ...body, w: 150 }, 1, 'front'), 'no room').toEqual([])
  })
})
