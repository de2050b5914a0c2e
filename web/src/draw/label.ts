// Where the name of a thing stands on its face, and how much of it fits.
import type { Device, Schemas } from '../api/client'
import { title } from '../lab/words'
import { bodyBox, cellsOn, showsParts, type Cell } from './faceParts'
import { fitText, letter, type Box } from './scale'

export interface Label {
  x: number
  y: number
  anchor: 'start' | 'middle'
  text: string
  /** It stands on end, for want of width. */
  turned?: boolean
}

/** The lowest box that a line of text still fits into. */
export const lowest = 9.5

/**
 * The label of a device in a box; nothing for a brush, whose face has no room, for
 * a shelf, which is an edge, and where a line of text is higher than the face.
 */
export function labelOf(
  device: Device,
  box: Box,
  scale: number,
  as: { small?: boolean; back?: boolean; short?: string },
  sheets?: Map<string, Schemas['SpecSheet']>,
): Label | undefined {
  if (device.device_kind === 'shelf' || (device.device_kind === 'brush_panel' && !device.name)) return undefined
  const own = bodyBox(device, box, scale, as.small)
  const name = title(device)
  if (own.h < lowest) return undefined
  const room = as.small ? own.w - (as.short ? 1 : 6) : beside(own, cellsOn(device, own, scale, as.back ? 'rear' : 'front', sheets), as.back)
  const fits = (text: string, width: number) => text.length * letter <= width
  const at = { x: own.x + own.w / 2, y: own.y + own.h / 2, anchor: 'middle' as const }
  if (!as.small) return { ...at, x: own.x + 12, anchor: 'start', text: fitText(name, room) }
  if (!as.short || fits(name, room)) return { ...at, text: fitText(name, room) }
  if (fits(as.short, room)) return { ...at, text: as.short }
  if (own.w >= 11 && fits(as.short, own.h - 2)) return { ...at, text: as.short, turned: true }
  // Half a number is another one.
  return { ...at, text: /^\d/.test(as.short) ? '' : fitText(as.short, room) || as.short.slice(0, room / letter) }
}

/** The room for a name beside what a face shows: its ports and bays, or the sign of its kind in the middle. */
function beside(own: Box, cells: Cell[], back?: boolean): number {
  const until = cells.length ? Math.min(...cells.map((c) => c.x)) - own.x : back || !showsParts(own) ? own.w - 4 : own.w / 2
  return until - 16
}

/** Names without what all of them begin with, up to where a word or a number begins: node-1, node-2 are 1, 2. */
export function toldApart(names: string[]): string[] {
  const [first = ''] = names
  let n = 0
  while (names.length > 1 && n < first.length && names.every((name) => name[n] === first[n])) n++
  const within = (name: string) => /^(\d\d|\p{L}\p{L})$/u.test(name.slice(n - 1, n + 1))
  while (n > 0 && names.some(within)) n--
  return names.map((name) => name.slice(n).trim() || name)
}
