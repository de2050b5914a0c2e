// Where the ports, bays, outlets and supplies of a spec are on its face, in
// millimetres. A group keeps its proportions and is made smaller where the face
// has no room for it.
import type { Device, Schemas } from '../api/client'
import { traitsOf, type Traits } from '../lab/words'
import type { Box } from './scale'

/** What a device says itself, over what its sheet says. */
export const specOf = (device: Device, sheets: Map<string, Schemas['SpecSheet']>): Schemas['SpecSheet'] | Device => ({
  ...sheets.get(device.sheet_id ?? ''),
  ...device,
})

export type CellKind = 'jack' | 'cage' | 'hole' | 'bay' | 'outlet' | 'supply'

export interface Cell {
  kind: CellKind
  /** Its number among the seats of its sort, for bays and supplies. */
  seat: number
  /** Of ports and outlets: the number of their group, ports first, and theirs in it. */
  group: number
  index: number
  x: number
  y: number
  w: number
  h: number
}

interface Group {
  kind: CellKind
  count: number
  columns: number
  rows: number
  w: number
  h: number
  gap: number
  seat: number
  /** As the wiring counts groups; -1 for what nothing is plugged into. */
  group: number
  /** Counted along each row, rather than down each column. */
  along?: boolean
}

const cages = new Set(['cage', 'sfp', 'sfp+', 'sfp28', 'qsfp', 'qsfp+', 'qsfp28', 'xfp'])
const jacks = new Set(['rj45', 'rj11', 'keystone', 'console', 'rs232'])

/** Two dozen jacks of a panel stand in one row, a dozen of anything else. */
function portGroup(p: Schemas['PortGroup'], high: number, group: number, joined: boolean): Group {
  const rows = Math.max(1, Math.min(p.rows ?? (p.count > (joined ? 24 : 12) && high > 36 ? 2 : 1), Math.floor(high / 12) || 1))
  const connector = p.connector ?? ''
  const kind = cages.has(connector) ? 'cage' : jacks.has(connector) ? 'jack' : 'hole'
  const h = Math.min(13, (high - 6) / rows - 1.5)
  return {
    kind,
    count: p.count,
    columns: Math.ceil(p.count / rows),
    rows,
    w: kind === 'cage' ? 15 : kind === 'jack' ? 14 : 11,
    h: kind === 'hole' ? h * 0.7 : h,
    gap: 1.6,
    seat: 0,
    group,
    along: p.numbering !== 'down',
  }
}

function bayGroup(b: Schemas['BayGroup'], high: number, seat: number): Group {
  const upright = b.form === '2.5in' && high > 70
  const w = b.form === '3.5in' ? 88 : upright ? 15 : 66
  const h = b.form === '3.5in' ? 24 : upright ? high - 14 : 15
  const most = Math.max(1, Math.floor((high - 4) / (h + 2)))
  const rows = Math.min(most, Math.max(1, Math.ceil(b.count / (b.form === '3.5in' ? 4 : upright ? 24 : 4))))
  return { kind: 'bay', count: b.count, columns: Math.ceil(b.count / rows), rows, w, h, gap: 2, seat, group: -1, along: true }
}

function outletGroup(o: Schemas['OutletGroup'], high: number, group: number): Group {
  const rows = high > 70 && o.count > 4 ? 2 : 1
  return {
    kind: 'outlet',
    count: o.count,
    columns: Math.ceil(o.count / rows),
    rows,
    w: 26,
    h: Math.min(22, (high - 8) / rows - 2),
    gap: 4,
    seat: 0,
    group,
  }
}

/** Network ports and inlets, which the kinds that have them at the back have there unless said. */
const behind = new Set([...cages, 'rj45', 'rj11', 'keystone', 'lc', 'sc', 'st', 'fc', 'mpo', 'c14', 'c20', 'c6', 'c8', 'dc', 'inlet'])

/** Everything a face shows, laid out in a room of so many millimetres; nothing where the spec tells of nothing there. */
export function cellsOf(
  spec: Partial<Schemas['SpecSheet']>,
  face: 'front' | 'rear',
  room: { w: number; h: number },
  is: Partial<Traits> = {},
): Cell[] {
  const usual = (back: boolean) => (is.rear_ports && back ? 'rear' : 'front')
  const groups: Group[] = (spec.ports ?? []).flatMap((p, i) =>
    (p.face ?? usual(behind.has(p.connector ?? ''))) === face ? [portGroup(p, room.h, i, !!is.joined)] : [],
  )
  let seat = 1
  for (const b of spec.bays ?? []) {
    if ((b.side ?? 'front') === face) groups.push(bayGroup(b, room.h, seat))
    seat += b.count
  }
  groups.push(
    ...(spec.outlets ?? []).flatMap((o, i) =>
      (o.face ?? usual(true)) === face ? [outletGroup(o, room.h, (spec.ports?.length ?? 0) + i)] : [],
    ),
  )
  if (face === 'rear' && spec.supply_bays)
    groups.push({
      kind: 'supply',
      count: spec.supply_bays,
      columns: spec.supply_bays,
      rows: 1,
      w: 46,
      h: Math.min(38, room.h - 6),
      gap: 3,
      seat: 1,
      group: -1,
    })
  if (!groups.length) return []
  const apart = 7
  const wide = (g: Group) => g.columns * (g.w + g.gap) - g.gap
  const total = groups.reduce((sum, g) => sum + wide(g) + apart, -apart)
  const shrink = Math.min(1, room.w / total)
  const cells: Cell[] = []
  let x = room.w - total * shrink
  for (const g of groups) {
    const h = g.rows * (g.h + g.gap) - g.gap
    const top = (room.h - h) / 2
    for (let i = 0; i < g.count; i++) {
      const [column, row] = g.along ? [i % g.columns, Math.floor(i / g.columns)] : [Math.floor(i / g.rows), i % g.rows]
      cells.push({
        kind: g.kind,
        seat: g.seat + i,
        group: g.group,
        index: i,
        x: x + column * (g.w + g.gap) * shrink,
        y: top + row * (g.h + g.gap),
        w: g.w * shrink,
        h: g.h,
      })
    }
    x += (wide(g) + apart) * shrink
  }
  return cells
}

/** The body of a device in the units it takes: a thing lower than they are stands at their foot, on its board. */
export function bodyBox(device: Device, { x, y, w, h }: Box, scale: number, plain = false): Box {
  const high = device.height_mm
  const wide = Math.max(0, w - 2)
  if (!high || plain) return { x: x + 1, y: y + 0.75, w: wide, h: Math.max(0, h - 1.5) }
  const mine = Math.max(2, Math.min(h - 1.5, high * scale - 1.5))
  return { x: x + 1, y: y + h - 0.75 - mine, w: wide, h: mine }
}

/** What a face of a device shows, in pixels of the drawing; nothing where its body has no room for that. */
export function cellsOn(
  device: Device,
  body: Box,
  scale: number,
  face: 'front' | 'rear',
  sheets: Map<string, Schemas['SpecSheet']> = new Map(),
): Cell[] {
  if (!showsParts(body)) return []
  const area = partsBox(body)
  const room = { w: area.w / scale, h: area.h / scale }
  return cellsOf(specOf(device, sheets), face, room, traitsOf(device.device_kind)).map((c) => ({
    ...c,
    x: area.x + c.x * scale,
    y: area.y + c.y * scale,
    w: c.w * scale,
    h: c.h * scale,
  }))
}

/** Whether a body has room for its ports, bays and outlets beside its name. */
export const showsParts = (own: Box) => own.w > 180

/** The part of a body that its ports, bays and outlets are in, beside the name. */
function partsBox({ x, y, w, h }: Box): Box {
  const from = Math.min(w * 0.42, 96)
  return { x: x + from, y, w: w - from - 12, h }
}
