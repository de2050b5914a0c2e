// How records are named on screen. What is worked out comes from the server;
// here are only words and the numbers on the rail.
import type { Device, Rack, Schemas } from '../api/client'
import { deviceKinds } from '../api/core.gen'
import type { LabState } from './useLab'

export interface Traits {
  words: string
  short?: string
  stands?: boolean
  holds?: boolean
  encloses?: boolean
  passive?: boolean
  thin?: boolean
  joined?: boolean
  rear_ports?: boolean
  bridges?: boolean
  guest?: boolean
}

const traits = new Map<Schemas['DeviceKind'], Traits>(deviceKinds.map((k) => [k.kind, k]))

/** What is true of every device of a kind. */
export const traitsOf = (kind: Schemas['DeviceKind']): Traits => traits.get(kind) ?? { words: kind }

/** A kind as it is spoken: "mini PC", "patch panel". */
export const kindWords = (kind: Schemas['DeviceKind']): string => traitsOf(kind).words

/** The same where there is little room. */
export const kindShort = (kind: Schemas['DeviceKind']): string => traitsOf(kind).short ?? traitsOf(kind).words

/** What a device is: its kind, or its owner's words where that is other. */
export const whatIs = (d: Device): string => d.other_kind ?? kindWords(d.device_kind)

/** A VM or a container, which nobody can touch. */
export const isGuest = (d: Device): boolean => !!traitsOf(d.device_kind).guest

/** The same where there is little room. */
export const whatIsShort = (d: Device): string => d.other_kind ?? kindShort(d.device_kind)

export const title = (d: Device): string => d.name ?? whatIs(d)

/** The number on the rail of a unit that is counted from the foot. */
export function unitNumber(lab: LabState, rack: Rack, unit: number): number {
  return lab.settings.unit_numbering === 'top' ? rack.height_u + 1 - unit : unit
}

export function unitRange(lab: LabState, rack: Rack, unit: number, units: number): string {
  const a = unitNumber(lab, rack, unit)
  const b = unitNumber(lab, rack, unit + units - 1)
  return a === b ? `${a}` : `${Math.min(a, b)}-${Math.max(a, b)}`
}

export const count = (n: number) => (n === 1 ? '1 device' : `${n} devices`)

const trim = (n: number) => n.toLocaleString('en-GB', { maximumFractionDigits: 2, useGrouping: false })

export const mm = (v: number) => `${trim(v)} mm`
export const kg = (v: number) => `${v.toLocaleString('en-GB', { maximumFractionDigits: 3, useGrouping: false })} kg`

/** A height in units where it is a whole or half number of them. */
export function height(v: number): string {
  const units = Math.round((v / 44.45) * 2) / 2
  return units > 0 && Math.abs(units * 44.45 - v) < 0.01 ? `${trim(units)}U` : mm(v)
}

/** A day, as 2026-11-23, in words. */
export const days = (day: string): string =>
  new Date(`${day}T12:00:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })

/** A moment's day where the clock hangs, as 2026-11-23. */
export function dayOf(moment: Date): string {
  const two = (n: number) => `${n}`.padStart(2, '0')
  return `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`
}

export const today = () => dayOf(new Date())

/** A fact as the server writes it, with a narrow blank before its unit. */
export const spaced = (text: string): string => text.replaceAll(/(\d)(mm|km|m|kg|W|V|TB|GB|MB|dB|GHz|rpm|h|C)(?![\p{L}\d])/gu, '$1\u202f$2')

/** A word with a capital. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
