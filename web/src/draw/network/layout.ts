// Where the boxes of the map stand and how the bundles run: laid out by elkjs in
// a worker, in strata. What was laid out before keeps its order from left to
// right, so that the map is the same one after a change.
import type { ELK, ElkExtendedEdge, ElkNode } from 'elkjs/lib/elk-api'
import type { Box, Bundle } from './graph'
import { besideTitle, strata } from './graph'
import type { Point } from './strands'

export interface Placed extends Box {
  x: number
  y: number
  w: number
  h: number
}

export interface Run extends Bundle {
  points: Point[]
}

export interface Layout {
  boxes: Placed[]
  runs: Run[]
  width: number
  height: number
}

/** How far strands are from each other, and how wide a bundle is. */
export const pitch = 4
export const bundleWide = (b: Bundle): number => Math.max(6, b.strands.length * pitch + 4)

export const rowHigh = 17
/** How many names a box that gathers lists. */
export const mostNames = 12
const letter = 6.3

export function sizeOf(b: Box, degree: number): { w: number; h: number } {
  const longest = (texts: string[]) => Math.max(...texts.map((t) => t.length))
  if (b.gathers) {
    const names = b.holds.slice(0, mostNames).map((n) => n.title)
    const columns = names.length > 6 ? 2 : 1
    const wide = (longest(names) * letter + 14) * columns + 8
    const rows = Math.ceil(Math.min(b.holds.length, mostNames) / columns) + (b.holds.length > mostNames ? 1 : 0)
    return { w: Math.max(88, wide), h: 24 + rows * rowHigh }
  }
  const text = Math.max(
    b.title.length * letter + 18,
    b.stratum === 'things' || !besideTitle(b) ? 0 : (b.title.length + besideTitle(b).length) * letter + 26,
  )
  return { w: Math.max(56, text, degree * 14), h: b.stratum === 'things' ? 26 : 32 }
}

let elk: Promise<ELK> | undefined

/** The engine, which is not needed before the sheet is: a worker, so that nothing waits for it. */
export function engine(): Promise<ELK> {
  elk ??= Promise.all([import('elkjs/lib/elk-api'), import('elkjs/lib/elk-worker.min.js?url')]).then(
    ([api, worker]) => new api.default({ workerUrl: worker.default }),
  )
  return elk
}

const options = {
  'elk.algorithm': 'layered',
  'elk.direction': 'DOWN',
  'elk.partitioning.activate': 'true',
  'elk.edgeRouting': 'ORTHOGONAL',
  'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
  'elk.layered.crossingMinimization.forceNodeModelOrder': 'false',
  'elk.layered.nodePlacement.strategy': 'BRANDES_KOEPF',
  'elk.layered.nodePlacement.bk.fixedAlignment': 'BALANCED',
  'elk.spacing.nodeNode': '10',
  'elk.spacing.edgeNode': '12',
  'elk.spacing.edgeEdge': '10',
  'elk.layered.spacing.nodeNodeBetweenLayers': '34',
  'elk.layered.spacing.edgeNodeBetweenLayers': '14',
  'elk.layered.spacing.edgeEdgeBetweenLayers': '10',
  'elk.padding': '[top=14,left=14,bottom=14,right=14]',
}

/** Lays a graph out. before tells where boxes stood, by their ids. */
export async function layOut(boxes: Box[], bundles: Bundle[], before: ReadonlyMap<string, number>): Promise<Layout> {
  const degree = new Map<string, number>()
  for (const b of bundles) for (const id of [b.a, b.b]) degree.set(id, (degree.get(id) ?? 0) + 1)
  const known = boxes.some((b) => before.has(b.id))
  // What was gathered opens where it was.
  const at = (b: Box) => before.get(b.id) ?? before.get(`leaves ${b.holds[0]?.leaf_of}`) ?? Infinity
  const order = known ? [...boxes].sort((a, b) => at(a) - at(b) || 0) : boxes
  const sizes = new Map(boxes.map((b) => [b.id, sizeOf(b, degree.get(b.id) ?? 0)]))
  const graph: ElkNode = {
    id: 'map',
    layoutOptions: { ...options, 'elk.layered.crossingMinimization.forceNodeModelOrder': `${known}` },
    children: order.map((b) => ({
      id: b.id,
      width: sizes.get(b.id)?.w ?? 60,
      height: sizes.get(b.id)?.h ?? 30,
      layoutOptions: { 'elk.partitioning.partition': `${strata.indexOf(b.stratum)}` },
    })),
    edges: bundles.map((b) => ({
      id: b.id,
      sources: [b.a],
      targets: [b.b],
      layoutOptions: { 'elk.edge.thickness': `${bundleWide(b)}` },
    })) as ElkExtendedEdge[],
  }
  const done = await (await engine()).layout(graph)
  const spots = new Map((done.children ?? []).map((c) => [c.id, c]))
  const lines = new Map((done.edges ?? []).map((e) => [e.id, e.sections?.[0]]))
  return {
    boxes: boxes.map((b) => {
      const spot = spots.get(b.id)
      return { ...b, x: spot?.x ?? 0, y: spot?.y ?? 0, w: spot?.width ?? 0, h: spot?.height ?? 0 }
    }),
    runs: bundles.map((b) => {
      const line = lines.get(b.id)
      return { ...b, points: line ? [line.startPoint, ...(line.bendPoints ?? []), line.endPoint] : [] }
    }),
    width: done.width ?? 0,
    height: done.height ?? 0,
  }
}
