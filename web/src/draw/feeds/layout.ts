// Lays out what feeds what, from the breakers at the left to what is fed at the
// right: four columns of boxes, and the ways between them clear of the boxes.
import type { Schemas } from '../../api/client'

type Node = Schemas['PowerNode']
type Feed = Schemas['PowerFeed']

/** The columns, from the left. */
export const columns = ['breakers', 'battery', 'strips', 'fed'] as const
export type Column = (typeof columns)[number]

/** A box: a thing, or the things of a place that is folded. */
export interface Box {
  id: string
  column: Column
  node?: Node
  /** The place whose things it stands for, and those. */
  place?: string
  holds: Node[]
  /** What gives it its power over the network; it is drawn below that. */
  below?: string
  x: number
  y: number
  w: number
  h: number
}

/** A way from box to box. */
export interface Way {
  id: string
  from: string
  to: string
  /** The outlet and the supply, where it is a single one. */
  out?: string
  in?: string
  /** The circuit or the UPS that it comes from. */
  feed: string
  filtered: boolean
  poe: boolean
  points: { x: number; y: number }[]
}

export interface FeedsLayout {
  boxes: Box[]
  ways: Way[]
  heads: { column: Column; x: number }[]
  width: number
  height: number
}

const top = 26
const gap = 6
/** How much of the width the columns have, and the gaps between them. */
const shares: Record<Column, number> = { breakers: 136, battery: 136, strips: 130, fed: 196 }
const lanes = 40

const columnOf: Record<Node['kind'], Column> = {
  circuit: 'breakers',
  outlet: 'breakers',
  ups: 'battery',
  strip: 'strips',
  pdu: 'strips',
  brick: 'strips',
  usb: 'strips',
  poe: 'strips',
  device: 'fed',
}

/** The height of a line of supplies in a box of what is fed. */
export const supplyHigh = 21
export const headHigh = 27

function highOf(n: Node | undefined): number {
  switch (n && columnOf[n.kind]) {
    case 'breakers':
      return 62
    case 'battery':
      return 82
    case 'strips':
      return 58
    default:
      return Math.max(headHigh, 3 + (n?.supplies.length ?? 1) * supplyHigh)
  }
}

/** The feeds without the wall outlets that are on a circuit: those are no more than its ends. */
function through(nodes: Node[], feeds: Feed[]): { shown: Node[]; feeds: Feed[] } {
  const circuitOf = new Map(feeds.filter((f) => !f.out).map((f) => [f.to_id, f.from_id]))
  return {
    shown: nodes.filter((n) => n.kind !== 'outlet' || !circuitOf.has(n.id)),
    feeds: feeds.filter((f) => f.out).map((f) => ({ ...f, from_id: circuitOf.get(f.from_id) ?? f.from_id })),
  }
}

/** What is drawn: the boxes and the ways without their places. */
export function boxesOf(nodes: Node[], feeds: Feed[], folded: ReadonlySet<string>) {
  const all = through(nodes, feeds)
  const fed = new Set(all.feeds.map((f) => f.to_id))
  const gives = new Set(all.feeds.map((f) => f.from_id))
  const boxOf = new Map<string, string>()
  const boxes: Box[] = []
  const none = { x: 0, y: 0, w: 0, h: 0 }
  for (const n of all.shown) {
    const column = columnOf[n.kind]
    if (column === 'fed' && !fed.has(n.id) && !gives.has(n.id)) continue // nothing says what feeds it
    const place = column === 'fed' && n.place && folded.has(n.place) ? n.place : undefined
    const id = place === undefined ? n.id : `place ${place}`
    boxOf.set(n.id, id)
    const known = boxes.find((b) => b.id === id)
    if (known) known.holds.push(n)
    else boxes.push({ id, column, ...(place === undefined ? { node: n } : { place }), holds: [n], ...none })
  }
  const ways = new Map<string, Omit<Way, 'points'>>()
  const byId = new Map(nodes.map((n) => [n.id, n]))
  for (const f of all.feeds) {
    const [from, to] = [boxOf.get(f.from_id), boxOf.get(f.to_id)]
    if (!from || !to || from === to) continue
    const target = boxes.find((b) => b.id === to)
    const poe = f.by === 'poe'
    if (poe && target?.node) target.below ??= from
    const single = !!target?.node
    const id = single ? `${f.from_id} ${f.out} ${f.to_id} ${f.in}` : `${from} ${to}`
    const source = byId.get(f.from_id)
    const feed = source && (source.kind === 'circuit' || source.kind === 'ups') ? source.id : (source?.hangs_on[0] ?? f.from_id)
    ways.set(id, { id, from, to, feed, filtered: !!f.filtered, poe, ...(single ? { out: f.out, in: f.in } : {}) })
  }
  return { boxes, ways: [...ways.values()] }
}

/** Puts the boxes into columns of a drawing of that width. */
export function layOut(nodes: Node[], feeds: Feed[], folded: ReadonlySet<string>, width: number): FeedsLayout {
  const { boxes, ways } = boxesOf(nodes, feeds, folded)
  const used = columns.filter((c) => c === 'fed' || boxes.some((b) => b.column === c))
  const room = Math.max(620, width) - 4 - lanes * (used.length - 1)
  const all = used.reduce((sum, c) => sum + shares[c], 0)
  const at = new Map<Column, { x: number; w: number }>()
  let x = 2
  for (const c of used) {
    const w = Math.floor((room * shares[c]) / all)
    at.set(c, { x, w })
    x += w + lanes
  }
  const of = new Map(boxes.map((b) => [b.id, b]))
  for (const b of boxes) {
    const column = at.get(b.column)
    b.x = (column?.x ?? 0) + (b.below ? 12 : 0)
    b.w = (column?.w ?? 0) - (b.below ? 12 : 0)
    b.h = highOf(b.node)
  }
  order(boxes, ways, of)
  const height = Math.max(top, ...boxes.map((b) => b.y + b.h)) + 6
  return {
    boxes,
    ways: ways.map((w) => ({ ...w, points: way(w, boxes, of, ways) })),
    heads: used.map((c) => ({ column: c, x: at.get(c)?.x ?? 0 })),
    width: x - lanes + 2,
    height,
  }
}

/** What is fed stands in the order of what feeds it, and that in the middle of what it feeds. */
function order(boxes: Box[], ways: Omit<Way, 'points'>[], of: Map<string, Box>) {
  const feeding = new Map<string, string[]>()
  for (const w of ways) feeding.set(w.from, [...(feeding.get(w.from) ?? []), w.to])
  const seen: Box[] = []
  const visit = (b: Box) => {
    if (seen.includes(b)) return
    seen.push(b)
    const fed = (feeding.get(b.id) ?? []).flatMap((id) => of.get(id) ?? [])
    for (const c of columns) fed.filter((f) => f.column === c).forEach(visit)
  }
  for (const c of columns) boxes.filter((b) => b.column === c && !b.below).forEach(visit)
  for (const b of boxes) visit(b)
  // What is fed over the network stands right below what feeds it.
  const fed: Box[] = []
  const put = (b: Box) => {
    fed.push(b)
    seen.filter((o) => o.below === b.id).forEach(put)
  }
  seen.filter((b) => b.column === 'fed' && (!b.below || of.get(b.below)?.column !== 'fed')).forEach(put)
  seen.filter((b) => b.column === 'fed' && !fed.includes(b)).forEach((b) => fed.push(b))
  let y = top
  for (const b of fed) {
    b.y = y
    y += b.h + (b.below ? 2 : gap)
  }
  for (const c of [...columns].reverse().slice(1)) {
    const mine = seen.filter((b) => b.column === c)
    const wish = new Map(
      mine.map((b) => {
        const fed = (feeding.get(b.id) ?? []).flatMap((id) => of.get(id) ?? []).filter((f) => f.column !== c)
        const mid = fed.length ? fed.reduce((sum, f) => sum + f.y + f.h / 2, 0) / fed.length : Infinity
        return [b, mid] as const
      }),
    )
    mine.sort((a, b) => (wish.get(a) ?? 0) - (wish.get(b) ?? 0))
    stack(mine, wish)
  }
}

/** Stacks boxes as near to where they wish to be as they do not meet. */
function stack(boxes: Box[], wish: Map<Box, number>) {
  let foot = top
  for (const b of boxes) {
    const want = wish.get(b) ?? Infinity
    b.y = Number.isFinite(want) ? Math.max(foot, want - b.h / 2) : foot
    foot = b.y + b.h + gap
  }
}

/** Where a way comes in: at its supply, or in the middle. */
function entry(w: Omit<Way, 'points'>, to: Box): number {
  const i = to.node?.kind === 'device' ? to.node.supplies.findIndex((s) => s.port === w.in) : -1
  return i < 0 ? to.y + Math.min(to.h / 2, 16) : to.y + 3 + i * supplyHigh + (supplyHigh - 1) / 2
}

/** The way between two boxes: out at the right, across what lies between where there is room, in at the left. */
function way(w: Omit<Way, 'points'>, boxes: Box[], of: Map<string, Box>, ways: Omit<Way, 'points'>[]): { x: number; y: number }[] {
  const [from, to] = [of.get(w.from), of.get(w.to)]
  if (!from || !to) return []
  const y2 = entry(w, to)
  if (from.column === to.column) {
    // Below it, or beside: along the outside.
    const x = from.x + 5
    if (w.poe && to.y > from.y)
      return [
        { x, y: from.y + from.h },
        { x, y: y2 },
        { x: to.x, y: y2 },
      ]
    const out = from.x + from.w
    return [
      { x: out, y: from.y + from.h / 2 },
      { x: out + 6, y: from.y + from.h / 2 },
      { x: out + 6, y: to.y + to.h / 2 },
      { x: to.x + to.w, y: to.y + to.h / 2 },
    ]
  }
  const y1 = from.y + from.h / 2
  const out = from.x + from.w
  const lane = (right: number) => {
    // Each source has its own lane in a gap, so that ways can be told apart.
    const sources = [
      ...new Set(
        ways
          .filter((o) => {
            const [a, b] = [of.get(o.from), of.get(o.to)]
            return a && b && a.column !== b.column && a.x < right && b.x >= right
          })
          .map((o) => o.from),
      ),
    ].sort((a, b) => (of.get(a)?.y ?? 0) - (of.get(b)?.y ?? 0))
    const i = sources.indexOf(w.from)
    return right - 8 - ((lanes - 16) * (i + 0.5)) / Math.max(1, sources.length)
  }
  const rights = [...new Set(boxes.filter((b) => b.x > out && b.x <= to.x && !b.below).map((b) => b.x))].sort((a, b) => a - b)
  const first = rights[0] ?? to.x
  const last = rights.at(-1) ?? to.x
  if (first === last)
    return [
      { x: out, y: y1 },
      { x: lane(first), y: y1 },
      { x: lane(first), y: y2 },
      { x: to.x, y: y2 },
    ]
  const between = boxes.filter((b) => b.x >= first && b.x < last)
  const y = clear(y2, between)
  return [
    { x: out, y: y1 },
    { x: lane(first), y: y1 },
    { x: lane(first), y },
    { x: lane(last), y },
    { x: lane(last), y: y2 },
    { x: to.x, y: y2 },
  ]
}

/** The height nearest to a wish at which nothing lies. */
export function clear(wish: number, boxes: { y: number; h: number }[]): number {
  const free = (y: number) => !boxes.some((b) => y > b.y - 3 && y < b.y + b.h + 3)
  if (free(wish)) return wish
  const edges = boxes.flatMap((b) => [b.y - 4, b.y + b.h + 4]).filter((y) => y > top - 8 && free(y))
  return edges.sort((a, b) => Math.abs(a - wish) - Math.abs(b - wish))[0] ?? Math.max(0, ...boxes.map((b) => b.y + b.h)) + 4
}

/** How the ways of feeds are drawn: none alike another one next to it, in colour or as a pattern. */
const looks = [
  { colour: 'var(--brass)', dash: '' },
  { colour: 'var(--water)', dash: '' },
  { colour: 'var(--brass)', dash: '7 4' },
  { colour: 'var(--water)', dash: '7 4' },
  { colour: 'var(--moss)', dash: '2 3' },
  { colour: 'var(--soft)', dash: '10 3 2 3' },
]

/** The look of each feed, by its circuit or UPS: circuits first, in the order of their names. */
export function looksOf(nodes: Node[]): Map<string, (typeof looks)[number]> {
  const feeds = nodes
    .filter((n) => n.kind === 'circuit' || n.kind === 'ups')
    .sort((a, b) => (a.kind === b.kind ? a.name.localeCompare(b.name) : a.kind === 'circuit' ? -1 : 1))
  return new Map(feeds.map((n, i) => [n.id, looks[i % looks.length] as (typeof looks)[number]]))
}
