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

/** The columns from left to right; what is in none stands with the guests. */
const columns = ['service', 'guest', 'pool', 'device']

const options = {
  'elk.algorithm': 'layered',
  'elk.direction': 'RIGHT',
  'elk.partitioning.activate': 'true',
  'elk.edgeRouting': 'POLYLINE',
  'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
  'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
  'elk.separateConnectedComponents': 'false',
  'elk.spacing.nodeNode': '6',
  'elk.layered.crossingMinimization.forceNodeModelOrder': 'true',
  'elk.layered.spacing.nodeNodeBetweenLayers': '24',
  'elk.layered.spacing.edgeNodeBetweenLayers': '8',
  'elk.padding': '[top=10,left=10,bottom=10,right=10]',
}

export async function layOut(nodes: Schemas['NeedNode'][], links: Schemas['NeedLink'][]): Promise<Picture> {
  const lines = joined(links)
  const graph: ElkNode = {
    id: 'needs',
    layoutOptions: options,
    children: nodes.map((n) => ({
      id: n.id,
      width: wide(n),
      height: high,
      layoutOptions: { 'elk.partitioning.partition': `${n.kind === 'service' ? 0 : Math.max(1, columns.indexOf(n.kind))}` },
    })),
    edges: lines.map((l, i) => ({ id: `l${i}`, sources: [l.of], targets: [l.to] })) as ElkExtendedEdge[],
  }
  const done = await (await engine()).layout(graph)
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
