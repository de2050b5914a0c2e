// The columns of the table of everything: what they say, how they sort, and
// which fact is edited in them.
import type { Device, Schemas } from '../../api/client'
import { kinds, states } from '../../card/choices'
import type { LabState } from '../../lab/useLab'
import { height, kindWords, title, whereTyped, whereWords } from '../../lab/words'

export interface Row {
  device: Device
  /** Where it is, in a sentence and as it would be typed. */
  where: string
  typed: string
  /** All of it in small letters, for the filter. */
  text: string
}

export interface Column {
  name: string
  title: string
  /** The fact that is edited here. */
  field?: string
  /** What stands in the cell; nothing while it is not known. */
  say: (r: Row) => string | undefined
  /** What the field starts with, where that is not what is said. */
  typed?: (r: Row) => string
  sort: (r: Row) => string | number | undefined
  choices?: { value: string; title: string }[]
  figure?: boolean
}

const figure = (name: string, heading: string, field: 'depth_mm' | 'weight_kg'): Column => ({
  name,
  title: heading,
  field,
  say: (r) => r.device[field]?.toLocaleString('en-GB', { useGrouping: false, maximumFractionDigits: 3 }),
  sort: (r) => r.device[field],
  figure: true,
})

export const columns: [Column, ...Column[]] = [
  { name: 'name', title: 'Name', field: 'name', say: (r) => r.device.name, sort: (r) => title(r.device) },
  { name: 'kind', title: 'Kind', field: 'device_kind', say: (r) => kindWords(r.device.device_kind), typed: (r) => kindWords(r.device.device_kind).toLowerCase(), sort: (r) => kindWords(r.device.device_kind), choices: kinds.map((k: Schemas['DeviceKind']) => ({ value: kindWords(k).toLowerCase(), title: kindWords(k) })) },
  { name: 'state', title: 'State', field: 'state', say: (r) => r.device.state, sort: (r) => states.indexOf(r.device.state), choices: states.map((s) => ({ value: s, title: s })) },
  { name: 'where', title: 'Where', field: 'at', say: (r) => (r.device.at ? r.where : undefined), typed: (r) => r.typed, sort: (r) => (r.device.at ? r.where : undefined) },
  { name: 'takes', title: 'Takes', field: 'takes_u', say: (r) => (r.device.takes_u ? `${r.device.takes_u}U` : undefined), sort: (r) => r.device.takes_u, figure: true },
  { name: 'high', title: 'High', field: 'height_mm', say: (r) => (r.device.height_mm ? height(r.device.height_mm) : undefined), sort: (r) => r.device.height_mm, figure: true },
  figure('deep', 'Deep, mm', 'depth_mm'),
  figure('weight', 'Weight, kg', 'weight_kg'),
  { name: 'purpose', title: 'What it is for', field: 'purpose', say: (r) => r.device.purpose, sort: (r) => r.device.purpose },
]

export function rowsOf(lab: LabState): Row[] {
  return [...lab.devices.values()].map((device) => {
    const where = whereWords(lab, device)
    return { device, where, typed: whereTyped(lab, device), text: `${title(device)} ${kindWords(device.device_kind)} ${device.state} ${where} ${device.purpose ?? ''} ${device.notes ?? ''}`.toLowerCase() }
  })
}
