// What is said of a trail: how long it is, what it carries and what holds that
// down, where it ends.
import type { Schemas } from '../api/client'

export type Trail = Schemas['Trail']

/** A link without a cable of its own: through the air or over the mains. */
export const isCordless = (kind?: Schemas['CableKind']): boolean => kind === 'wireless' || kind === 'powerline'

export const speedWords = (mb: number): string => (mb >= 1000 ? `${mb / 1000} Gb/s` : `${mb} Mb/s`)
const metres = (m: number) => `${Math.round(m * 100) / 100} m`

const endings: Record<Trail['end'], string> = { port: '', nothing: 'goes no further', open: 'not found', loop: 'round in a circle' }

/** How long it is; at least so long where some of it was never measured. */
export function trailLength(t: Trail): string {
  if (t.unmeasured === t.pieces.length) return isCordless(t.pieces[0]?.cable_kind) ? (t.pieces[0]?.cable_kind ?? '') : '? m'
  return `${t.unmeasured ? '≥ ' : ''}${metres(t.length_m)}`
}

/** What it carries, or why nothing; '' while unknown. */
export function trailSpeed(t: Trail): string {
  if (t.broken?.length) return 'broken'
  if (endings[t.end]) return endings[t.end]
  const { mb, at_most: atMost } = t.speed
  if (mb === undefined) return ''
  return mb === 0 ? 'no link' : `${atMost ? '≤ ' : ''}${speedWords(mb)}`
}

/** Whether it leads nowhere, or not as it should. */
export const trailBad = (t: Trail): boolean => !!t.broken?.length || t.end === 'open' || t.end === 'loop' || t.speed.mb === 0

/** The trail as it begins in a device that it ends in. */
export const trailFrom = (t: Trail, device: string): Trail =>
  t.stops[0]?.device_id !== device && t.stops.at(-1)?.device_id === device
    ? { ...t, stops: [...t.stops].reverse(), pieces: [...t.pieces].reverse() }
    : t

/** The whole trail, as it is read out. */
export const trailWords = (t: Trail): string =>
  [...new Set([t.stops.map((s) => `${s.title} ${s.port}`).join(', '), endings[t.end], trailSpeed(t), trailLength(t)])]
    .filter(Boolean)
    .join('; ')

/** A cable on the way: its label, colour, kind, length and run, as far as they are known. */
export const legWords = (p: Trail['pieces'][number], kind: string): string =>
  [p.label, [p.colour, kind].filter(Boolean).join(' ') || 'a cable', p.length_m === undefined ? '' : metres(p.length_m), p.run]
    .filter(Boolean)
    .join(', ')

/** Where one comes out, going from a port, and how that way ends; '' while unknown. */
export const reachWords = (stop?: Schemas['Stop'], ends?: Trail['end']): string =>
  stop
    ? `${stop.title} ${stop.port}${{ port: '', open: '', nothing: ', and no further', loop: ', round in a circle' }[ends ?? 'port']}`
    : ''

/** What it is held to, and by what; '' while unknown. */
export function heldWords({ speed: s }: Trail): string {
  if (s.mb === undefined) return ''
  if (s.mb === 0) return `nothing: ${s.held_by ?? 'no speed in common'}`
  const speed = `${s.at_most ? 'at most ' : ''}${speedWords(s.mb)}`
  if (!s.held_by) return speed
  return `${speed} by ${s.held_by}${s.rest_mb ? `; the rest would carry ${speedWords(s.rest_mb)}` : ''}`
}
