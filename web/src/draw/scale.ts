// Drawing geometry. All drawings are to one scale in both directions: so many
// pixels to a millimetre.
import type { Device, Rack, Schemas, Spot } from '../api/client'

export const unitMM = 44.45

/** The width over the ears; an unknown form is drawn as 19 inches. */
export function faceMM(rack: Rack): number {
  if (rack.form === '10in') return 254
  if (rack.form === 'own') return rack.face_mm ?? rack.opening_mm ?? 482.6
  return 482.6
}

export interface Box {
  x: number
  y: number
  w: number
  h: number
}

/** Part of the width that a share takes, from 0 to 1. */
export function shareOf(share: Spot['share']): [from: number, to: number] {
  switch (share) {
    case 'left half':
      return [0, 1 / 2]
    case 'right half':
      return [1 / 2, 1]
    case 'left third':
      return [0, 1 / 3]
    case 'middle third':
      return [1 / 3, 2 / 3]
    case 'right third':
      return [2 / 3, 1]
  }
  return [0, 1]
}

/** How much of the width a share is. */
export function partOf(share: Spot['share']): Schemas['Portion'] {
  const [from, to] = shareOf(share)
  return to - from > 0.9 ? 'whole' : to - from > 0.4 ? 'half' : 'third'
}

/** The share that a point of the width is in, from 0 to 1. */
export function shareAt(part: Schemas['Portion'], at: number): Schemas['Share'] {
  if (part === 'half') return at < 1 / 2 ? 'left half' : 'right half'
  if (part === 'third') return at < 1 / 3 ? 'left third' : at < 2 / 3 ? 'middle third' : 'right third'
  return 'whole'
}

/** Where units are in a face of the rack that starts at x, y. */
export function unitsBox(rack: Rack, scale: number, x: number, y: number, unit: number, units: number, share?: Spot['share']): Box {
  const u = unitMM * scale
  const w = faceMM(rack) * scale
  const [from, to] = shareOf(share)
  return { x: x + from * w, y: y + (rack.height_u - unit - units + 1) * u, w: (to - from) * w, h: units * u }
}

/** How large a thing that is in no units is drawn while its own size is unknown, in mm. */
const usual: Partial<Record<Schemas['DeviceKind'], [w: number, h: number]>> = {
  server: [430, 88],
  mini_pc: [125, 45],
  single_board_computer: [90, 32],
  nas: [170, 165],
  access_point: [200, 36],
  camera: [70, 70],
  sensor: [55, 55],
  hub: [105, 30],
  desktop: [190, 400],
  display: [540, 330],
  modem: [160, 45],
  power_strip: [380, 45],
  ups: [220, 150],
  recorder: [300, 60],
  router: [230, 45],
  firewall: [230, 45],
  switch: [260, 44],
  other: [110, 60],
}

/** The size to draw a thing at, in mm, and whether it is known. */
export function sizeMM(d: Device): { w: number; h: number; known: boolean } {
  const [w, h] = usual[d.device_kind] ?? [220, 88]
  const high = d.height_mm ?? (d.takes_u ? d.takes_u * unitMM : undefined)
  return { w: d.width_mm ?? w, h: high ?? h, known: d.width_mm !== undefined && high !== undefined }
}

/** The width of a letter of a name, in pixels, more or less. */
export const letter = 6.2

/** A name cut so that it fits into so many pixels. */
export function fitText(text: string, width: number, each = letter): string {
  const most = Math.floor(width / each)
  return text.length <= most ? text : most < 3 ? '' : `${text.slice(0, most - 1)}…`
}
