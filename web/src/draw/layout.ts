// Where everything of a rack is on a drawing of one of its faces.
import type { Device, Face, Rack, Schemas } from '../api/client'
import { title, traitsOf } from '../lab/words'
import { toldApart } from './label'
import { faceMM, sizeMM, unitMM, unitsBox, type Box } from './scale'

/** A thing and where it is drawn. */
export interface Placed {
  device: Device
  box: Box
  /** What tells it from its neighbours, where there is no room for its name. */
  short?: string
}

export interface FaceLayout {
  /** What is mounted at this face. */
  mounted: Placed[]
  /** The other side's things that reach through: their backs are seen from here. */
  backs: Placed[]
  /** What stands on shelves and on other things, on top of the rack and under it. */
  small: Placed[]
  /** What hangs in the posts. */
  sides: Placed[]
  /** Where the units are that a thing takes, seen from this face. */
  unitsOf: (device: Device) => Box
}

export interface FaceOfRack {
  rack: Rack
  face: Face
  held: Map<string, Device[]>
  scale: number
  x: number
  y: number
  /** Widths of the posts and of the frame above and below. */
  posts: { left: number; right: number; rail: number }
}

type Share = Schemas['Share']

/** A share of the width as it looks from the other face. */
const mirror: Partial<Record<Share, Share>> = {
  'left half': 'right half',
  'right half': 'left half',
  'left third': 'right third',
  'right third': 'left third',
}

/** Things side by side on a board, to scale as long as they fit. */
function row(list: Device[], scale: number, left: number, foot: number, width: number, most: number): Placed[] {
  const wide = list.map((d) => Math.max(sizeMM(d).w * scale, 34, title(d).length * 6.4 + 10))
  const sum = wide.reduce((a, b) => a + b, 0)
  const gap = Math.min(6, width / (4 * (list.length + 1)))
  const fit = Math.min(1, (width - gap * (list.length + 1)) / Math.max(1, sum))
  const shorts = fit < 0.8 ? toldApart(list.map(title)) : []
  let at = left + gap
  return list.map((device, i) => {
    const w = (wide[i] ?? 34) * fit
    const h = Math.min(most, Math.max(18, sizeMM(device).h * scale))
    const box = { x: at, y: foot - h, w, h }
    at += w + gap
    return { device, box, short: shorts[i] }
  })
}

export function layoutOf({ rack, face, held, scale, x, y, posts }: FaceOfRack): FaceLayout {
  const u = unitMM * scale
  const w = faceMM(rack) * scale
  const h = rack.height_u * u
  const inRack = held.get(rack.id) ?? []
  const at = (where: string) => inRack.filter((d) => d.at?.where === where)
  const placed = (device: Device): Placed => {
    const spot = device.at
    const share = spot?.face === face || !spot?.share ? spot?.share : (mirror[spot.share] ?? spot.share)
    return { device, box: unitsBox(rack, scale, x, y, spot?.unit ?? 1, device.takes_u ?? 1, share) }
  }
  const overlap = (a: Device, b: Device) =>
    (a.at?.unit ?? 0) < (b.at?.unit ?? 0) + (b.takes_u ?? 1) && (b.at?.unit ?? 0) < (a.at?.unit ?? 0) + (a.takes_u ?? 1)

  const mounted = at('units').filter((d) => d.at?.face === face)
  const backs = at('units').filter((d) => d.at?.face !== face && !traitsOf(d.device_kind).passive && !mounted.some((o) => overlap(o, d)))
  /** What a device stands up from the foot of its units: all of them for a shelf's board. */
  const ownHeight = (d: Device, box: Box) => (d.device_kind === 'shelf' ? 7 : Math.min(box.h, (d.height_mm ?? Infinity) * scale))
  const stacked = mounted
    .filter((d) => !traitsOf(d.device_kind).encloses)
    .flatMap((on) => {
      const { box } = placed(on)
      const room = on.device_kind === 'shelf' ? Math.max(3, box.h - 9) : u * 1.2
      return row(held.get(on.id) ?? [], scale, box.x + 2, box.y + box.h - ownHeight(on, box), box.w - 4, room)
    })
  const sides = inRack
    .filter((d) => d.at?.where === 'left' || d.at?.where === 'right')
    .map((device, i) => {
      const left = (device.at?.where === 'left') === (face === 'front')
      const box = {
        x: left ? x - posts.left + 2.5 : x + w + 2.5,
        y: y + 20 + (i % 2) * 12,
        w: (left ? posts.left : posts.right) - 5,
        h: Math.min(h * 0.7, 260),
      }
      return { device, box }
    })
  return {
    mounted: mounted.map(placed),
    backs: backs.map(placed),
    small: [
      ...stacked,
      ...row(at('top'), scale, x, y - posts.rail - 1, w, u * 1.6),
      ...row(at('under'), scale, x, y + h + posts.rail + 2 + u * 1.4, w, u * 1.4),
    ],
    sides,
    unitsOf: (device) => placed(device).box,
  }
}
