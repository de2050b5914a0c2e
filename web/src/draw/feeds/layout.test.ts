import { describe, expect, test } from 'vitest'
import type { Schemas } from '../../api/client'
import { boxesOf, clear, layOut, looksOf, type Box } from './layout'

type Node = Schemas['PowerNode']
const node = (id: string, kind: Node['kind'], more: Partial<Node> = {}): Node =>
  ({
    id,
    kind,
    name: id,
    hangs_on: [],
    supplies: [{ port: 'in1', fed: true }],
    outlets: [],
    fed_by: [],
    watts: {},
    full: {},
    ...more,
  }) as unknown as Node
const feed = (from: string, to: string, out = 'out1', by: 'lead' | 'poe' = 'lead', into = 'in1'): Schemas['PowerFeed'] => ({
  from_id: from,
  to_id: to,
  out,
  in: into,
  by,
})

const nodes = [
  node('kitchen', 'circuit'),
  node('left', 'outlet'),
  node('keep', 'ups'),
  node('strip', 'strip'),
  node('anvil', 'device', {
    place: 'Pantry',
    supplies: [
      { port: 'in1', fed: true },
      { port: 'in2', fed: true },
    ],
  }),
  node('core', 'device', { place: 'Pantry' }),
  node('ap', 'device', { place: 'Loft', supplies: [] }),
  node('alone', 'device'),
]
const feeds: Schemas['PowerFeed'][] = [
  { from_id: 'kitchen', to_id: 'left', by: 'lead' },
  feed('left', 'keep'),
  feed('left', 'strip', 'out2'),
  feed('keep', 'anvil'),
  feed('strip', 'anvil', 'out1', 'lead', 'in2'),
  feed('keep', 'core', 'out2'),
  feed('core', 'ap', '1', 'poe'),
]
const none: ReadonlySet<string> = new Set()

describe('what feeds what, laid out', () => {
  const l = layOut(nodes, feeds, none, 700)
  const box = (id: string): Box => {
    const found = l.boxes.find((b) => b.id === id)
    if (!found) throw new Error(`no box ${id}`)
    return found
  }

  test('a wall outlet on a circuit is no box; what nothing says the feed of is left out', () => {
    expect(l.boxes.map((b) => b.id).sort()).toEqual(['anvil', 'ap', 'core', 'keep', 'kitchen', 'strip'])
    expect(l.ways.filter((w) => w.from === 'kitchen').map((w) => w.to)).toEqual(['keep', 'strip'])
  })

  test('columns go from the breakers to what is fed, and no two boxes meet', () => {
    expect(box('kitchen').x).toBeLessThan(box('keep').x)
    expect(box('keep').x).toBeLessThan(box('strip').x)
    expect(box('strip').x).toBeLessThan(box('anvil').x)
    for (const a of l.boxes)
      for (const b of l.boxes)
        if (a !== b && a.x < b.x + b.w && b.x < a.x + a.w) expect(a.y + a.h <= b.y || b.y + b.h <= a.y, `${a.id} ${b.id}`).toBe(true)
    expect(Math.max(...l.boxes.map((b) => b.y + b.h))).toBeLessThanOrEqual(l.height)
  })

  test('what is fed over the network stands right below what feeds it', () => {
    expect(box('ap').below).toBe('core')
    expect(box('ap').y).toBeGreaterThan(box('core').y)
    expect(box('ap').y - box('core').y - box('core').h).toBeLessThan(10)
  })

  test('a way goes through no box between its ends', () => {
    for (const w of l.ways)
      for (const [i, p] of w.points.entries()) {
        const q = w.points[i + 1]
        if (!q || p.y !== q.y) continue
        for (const b of l.boxes)
          if (b.id !== w.from && b.id !== w.to && !b.below)
            expect(
              p.y > b.y && p.y < b.y + b.h && Math.min(p.x, q.x) < b.x + b.w && Math.max(p.x, q.x) > b.x,
              `${w.id} through ${b.id}`,
            ).toBe(false)
      }
  })

  test('the things of a place that is folded are one box, with one way from each that feeds them', () => {
    const folded = boxesOf(nodes, feeds, new Set(['Pantry']))
    const pantry = folded.boxes.find((b) => b.place === 'Pantry')
    expect(pantry?.holds.map((n) => n.id)).toEqual(['anvil', 'core'])
    expect(
      folded.ways
        .filter((w) => w.to === pantry?.id)
        .map((w) => w.from)
        .sort(),
    ).toEqual(['keep', 'strip'])
  })

  test('feeds are told apart by more than colour', () => {
    const many = Array.from({ length: 6 }, (_, i) => node(`u${i}`, 'ups'))
    expect(new Set([...looksOf(many).values()].map((x) => `${x.colour} ${x.dash}`)).size).toBe(6)
    expect(new Set([...looksOf(many).values()].map((x) => x.dash)).size).toBeGreaterThan(3)
  })

  test('a lane keeps clear of what lies in its way', () => {
    expect(clear(50, [{ y: 100, h: 40 }])).toBe(50)
    expect([96, 144]).toContain(clear(110, [{ y: 100, h: 40 }]))
  })
})
