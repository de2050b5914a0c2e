import { describe, expect, it } from 'vitest'
import { besideTitle, graphOf, rests } from './graph'
import { beside, corners, middle, pathOf } from './strands'

const node = (id: string, stratum: 'core' | 'access' | 'things', more = {}) =>
  ({ id, title: id, kind: 'switch', short: 'switch', stratum, state: 'running', ...more }) as const
const link = (a: string, b: string, strands: { vlan: number; tagged?: boolean; piece?: number }[] = [], more = {}) => ({
  a_device_id: a,
  b_device_id: b,
  a_port: '1',
  b_port: '1',
  cable_id: `${a}${b}`,
  strands: strands.map((s) => ({ piece: 0, ...s })),
  ...more,
})
const unfolded = { places: new Set<string>(), opened: new Set<string>() }
const leaves = ['a', 'b', 'c', 'd', 'e'].map((id) => node(id, 'things', { leaf_of: 'core', place: 'Pantry' }))

describe('the graph of the map', () => {
  it('gathers the leaves of a switch where they are many, until it is opened', () => {
    const map = {
      nodes: [node('core', 'core'), ...leaves],
      links: leaves.map((n, i) => link(n.id, 'core', [{ vlan: i % 2, tagged: i > 0 }])),
    }
    const { boxes, bundles } = graphOf(map, unfolded)
    expect(boxes.map((b) => b.id)).toEqual(['core', 'leaves core'])
    expect(boxes[1]?.holds.map((n) => n.title)).toEqual(['a', 'b', 'c', 'd', 'e'])
    expect(bundles).toHaveLength(1)
    expect(bundles[0]).toMatchObject({ a: 'core', b: 'leaves core' })
    // Untagged where it is so on any of its links.
    expect(bundles[0]?.strands).toEqual([
      { vlan: 0, tagged: false, loose: false },
      { vlan: 1, tagged: true, loose: false },
    ])
    expect(graphOf(map, { ...unfolded, opened: new Set(['core']) }).boxes).toHaveLength(6)
    expect(graphOf({ ...map, nodes: map.nodes.slice(0, 5) }, unfolded).boxes).toHaveLength(5)
  })

  it('says beside a title what it does not say itself', () => {
    const titles = { 'loft switch': '', core: 'switch · root', switchyard: 'switch', Switch: '' }
    const nodes = Object.keys(titles).map((t) => node(t, 'core', { root: t === 'core' }))
    expect(graphOf({ nodes, links: [] }, unfolded).boxes.map(besideTitle)).toEqual(Object.values(titles))
  })

  it('folds a place into one box', () => {
    const map = {
      nodes: [node('core', 'core'), node('x', 'access', { place: 'Loft' }), node('y', 'things', { place: 'Loft' })],
      links: [link('x', 'core'), link('y', 'x')],
    }
    const { boxes, bundles } = graphOf(map, { ...unfolded, places: new Set(['Loft']) })
    expect(boxes.map((b) => [b.id, b.stratum])).toEqual([
      ['core', 'core'],
      ['place Loft', 'access'],
    ])
    expect(bundles.map((b) => [b.a, b.b])).toEqual([['core', 'place Loft']])
  })

  it('draws the links of an aggregate as one, and others beside each other', () => {
    const map = {
      nodes: [node('core', 'core'), node('loft', 'access')],
      links: [
        link('core', 'loft', [], { cable_id: '1', aggregate: 'up' }),
        link('core', 'loft', [], { cable_id: '2', aggregate: 'up' }),
        link('core', 'loft', [{ vlan: 0, piece: 1 }], { cable_id: '3', rests: true }),
      ],
    }
    const { bundles } = graphOf(map, unfolded)
    expect(bundles.map((b) => b.links.length)).toEqual([2, 1])
    expect(bundles.map(rests)).toEqual([false, true])
    expect(bundles[1]?.strands[0]?.loose).toBe(true)
  })
})

describe('strands beside a line', () => {
  const line = [
    { x: 0, y: 0 },
    { x: 0, y: 5 },
    { x: 0, y: 10 },
    { x: 20, y: 10 },
  ]
  it('leaves out what is in a straight line', () => {
    expect(corners(line)).toEqual([line[0], line[2], line[3]])
  })
  it('keeps its distance round corners', () => {
    expect(beside(line, 2)).toEqual([
      { x: -2, y: 0 },
      { x: -2, y: 12 },
      { x: 20, y: 12 },
    ])
    expect(pathOf(beside(line, 0))).toBe('M0 0L0 10L20 10')
  })
  it('is written on where it is longest', () => {
    expect(middle(corners(line))).toMatchObject({ x: 10, y: 10, upright: false })
  })
})
