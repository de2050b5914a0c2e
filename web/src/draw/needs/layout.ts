// Where the things of the picture of what needs what stand: laid out by elkjs, what needs
// others at their left, what matters most on top.
import type { ElkExtendedEdge, ElkNode } from 'elkjs/lib/elk-api'
import type { Schemas } from '../../api/client'
import { engine } from '../network/layout'

export interface Point {
  x: number
  y: number
}
export type Placed = Schemas['NeedNode'] & Point & { w: number }
export type Line = Schemas['NeedLink'] & { points: Point[] }
export interface Picture {
  nodes: Placed[]
  lines: Line[]
  width: number
  height: number
}

export const high = 26
const letter = 6.4

/** How wide a thing is drawn. */
export const wide = (n: Schemas['NeedNode']) =>
  Math.max(56, Math.ceil((n.title.length + (n.holds ? `${n.holds}`.length + 2 : 0)) * letter + 18))

/** Two links between the same two are one line. */
export function joined(links: Schemas['NeedLink'][]): Schemas['NeedLink'][] {
  const by = new Map<string, Schemas['NeedLink']>()
  for (const l of links) {
    const key = `${l.of} ${l.to}`
    const was = by.get(key)
    if (!was) by.set(key, { ...l })
    else Object.assign(was, { how: `${was.how}, ${l.how}`, soft: was.soft && l.soft, or: was.or && l.or })
  }
  return [...by.values()]
}

/** What needs what, in a sentence. */
export const sentence = (l: Schemas['NeedLink'], title: (id: string) => string) =>
  `${title(l.of)} ${l.how} ${title(l.to)}${l.or ? ', or another' : ''}${l.soft ? ', and goes on without' : ''}`

/** The columns from left to right; what is in none stands with the guests. */
const columns = ['service', 'guest', 'pool', 'device']

const options = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.partitioning.activate': 'true',
  'elk.edgeRouting': 'POLYLINE',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.separateConnectedComponents': 'false',
  'elk.spacing.nodeNode': '6',
  'elk.spacing.edgeNode': '4',
  'elk.spacing.edgeEdge': '4',
  'elk.layered.spacing.nodeNodeBetweenLayers': '16',
  'elk.layered.spacing.edgeNodeBetweenLayers': '4',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '4',
  'elk.padding': '[top=6,left=2,bottom=6,right=2]',
}
/** Services stand in the order they come in; what they run in where its lines cross least. */
const ordered = {
  'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
  'elk.layered.crossingMinimization.forceNodeModelOrder': 'true',
}

/** As the engine takes it. */
function graphOf(nodes: Schemas['NeedNode'][], lines: Schemas['NeedLink'][], more: Record<string, string>): ElkNode {
  return {
    id: 'needs',
    layoutOptions: { ...options, ...more },
    children: nodes.map((n) => {
      const service = n.kind === 'service'
      const layoutOptions: Record<string, string> = {
        'elk.partitioning.partition': `${service ? 0 : Math.max(1, columns.indexOf(n.kind))}`,
      }
      if (!service) layoutOptions['elk.layered.considerModelOrder.noModelOrder'] = 'true'
      return { id: n.id, width: wide(n), height: high, layoutOptions }
    }),
    edges: lines.map((l, i) => ({ id: `l${i}`, sources: [l.of], targets: [l.to] })) as ElkExtendedEdge[],
  }
}

/** Nodes come by how much they matter; of those that matter alike the one whose lines lead further up goes first. */
export function sorted(nodes: Schemas['NeedNode'][], lines: Schemas['NeedLink'][], at: (id: string) => number): Schemas['NeedNode'][] {
  const worths = [...new Set(nodes.map((n) => n.worth))]
  const height = new Map(
    nodes.map((n) => {
      const to = lines.filter((l) => l.of === n.id).map((l) => at(l.to))
      return [n.id, to.length ? to.reduce((a, b) => a + b, 0) / to.length : at(n.id)]
    }),
  )
  return [...nodes].sort((a, b) => worths.indexOf(a.worth) - worths.indexOf(b.worth) || (height.get(a.id) ?? 0) - (height.get(b.id) ?? 0))
}

/** Lines are links as joined. */
export async function layOut(nodes: Schemas['NeedNode'][], lines: Schemas['NeedLink'][]): Promise<Picture> {
  const elk = await engine()
  // Once as it comes out best, to know which services go beside each other.
  const first = new Map((await elk.layout(graphOf(nodes, lines, {}))).children?.map((c) => [c.id, c.y ?? 0]))
  const done = await elk.layout(
    graphOf(
      sorted(nodes, lines, (id) => first.get(id) ?? 0),
      lines,
      ordered,
    ),
  )
  const spots = new Map((done.children ?? []).map((c) => [c.id, c]))
  const runs = new Map((done.edges ?? []).map((e) => [e.id, e.sections?.[0]]))
  return {
    nodes: nodes.map((n) => ({ ...n, x: spots.get(n.id)?.x ?? 0, y: spots.get(n.id)?.y ?? 0, w: wide(n) })),
    lines: lines.map((l, i) => {
      const run = runs.get(`l${i}`)
      return { ...l, points: run ? [run.startPoint, ...(run.bendPoints ?? []), run.endPoint] : [] }
    }),
    width: done.width ?? 0,
    height: done.height ?? 0,
  }
}
