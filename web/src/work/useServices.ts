// What runs where, asked for once for the towers, the levels and the cards, while one of
// them is shown; and what of it is picked beside devices.
import { shallowRef } from 'vue'
import { api } from '../api/address'
import type { Key, Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'

export type HostRow = Schemas['HostRow']
export type GuestRow = Schemas['GuestRow']

const hosts = sharedReport(() => api('/api/v1/reports/hosts'))
/** The service, stack, cluster or template that is picked. */
const picked = shallowRef<Key>()
/** What of it is picked, for the address. */
export const servicePick = picked

const kinds: string[] = ['service', 'stack', 'cluster', 'template']
/** Picks a service or what belongs to one, where it is that; false where it is something else. */
export function pickService(key: Key): boolean {
  if (!kinds.includes(key.kind)) return false
  picked.value = key
  return true
}

/** What shows hosts asks for them, while wanted. */
export function useServices(wanted: () => boolean = () => true) {
  return { running: hosts(wanted), picked }
}

const gb = 2 ** 30

/** Memory as one reads it, ? while it is unknown: 24 GB, of 2^30 bytes each. */
export function memoryWords(bytes: number | undefined): string {
  if (bytes === undefined) return '?'
  if (bytes && Math.abs(bytes) < gb) return `${Math.round(bytes / 2 ** 20)} MB`
  const v = bytes / gb
  return `${Number(v.toFixed(Math.abs(v) >= 100 ? 0 : 1))} GB`
}

/** The number of GB alone. */
export const inGB = (bytes: number) => Number((bytes / gb).toFixed(1))

/** What is looked at in the towers. */
export const lenses = [
  { value: 'memory', text: 'Memory' },
  { value: 'cores', text: 'Cores' },
  { value: 'matters', text: 'Importance' },
  { value: 'support', text: 'Support' },
] as const
export type TowerLens = (typeof lenses)[number]['value']

/** What a block of a tower says of its guest through a lens. */
export function saidOf(g: GuestRow, lens: TowerLens): string {
  switch (lens) {
    case 'memory':
      return g.given_bytes === undefined && g.takes_bytes !== undefined ? `uses ${memoryWords(g.takes_bytes)}` : memoryWords(g.takes_bytes)
    case 'cores':
      return g.vcpus === undefined ? '?' : `${g.vcpus} vCPU${g.vcpus === 1 ? '' : 's'}`
    case 'matters':
      return g.matters ?? 'not said'
    default:
      return g.supported_until ? `until ${g.supported_until}` : '?'
  }
}
