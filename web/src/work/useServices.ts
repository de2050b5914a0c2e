// What runs where, asked for once for the towers, the levels and the cards, while one of
// them is shown.
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'

export type HostRow = Schemas['HostRow']
export type GuestRow = Schemas['GuestRow']

const hosts = sharedReport(() => api('/api/v1/reports/hosts'))
/** What shows hosts asks for them, while wanted. */
export const useServices = (wanted: () => boolean = () => true) => ({ running: hosts(wanted) })

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
