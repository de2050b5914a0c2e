// The pools and copies of the lab that is looked at, asked for once for the drawings, the
// levels and the cards, while one of them is shown; and what of it is picked.
import { computed } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'
import { pickedOn } from './usePicked'

export type PoolRow = Schemas['PoolRow']
export type LostPart = Schemas['LostPart']

const pools = sharedReport(() => api('/api/v1/reports/pools'))
const copies = sharedReport(() => api('/api/v1/reports/copies'))
const picked = pickedOn('/storage')
const pool = computed(() => (picked.value?.kind === 'pool' ? picked.value.id : ''))

/** What shows storage asks for its pools, while wanted. */
export function useStorage(wanted: () => boolean = () => true) {
  const stored = pools(wanted)
  const byId = computed(() => new Map((stored.value?.pools ?? []).map((p) => [p.id, p])))
  /** The hue that tells a pool apart, beside its name. */
  const hueOf = (id: string | undefined) => {
    const at = (stored.value?.pools ?? []).findIndex((p) => p.id === id)
    return at < 0 ? 'var(--soft)' : (hues[at % hues.length] ?? 'var(--soft)')
  }
  return { stored, byId, hueOf, picked, pool }
}

/** What shows copies asks for them, while wanted. */
export const useCopies = (wanted: () => boolean = () => true) => copies(wanted)

const hues = ['var(--water)', 'var(--brass)', 'var(--moss)', 'var(--pale)', 'var(--soft)']

function inUnits(bytes: number, step: number, units: string[]): string {
  let [v, i] = [bytes, 0]
  while (i < units.length - 1 && Math.abs(v) >= step * 0.9995) [v, i] = [v / step, i + 1]
  const digits = Math.abs(v) >= 100 ? 0 : Math.abs(v) >= 10 ? 1 : 2
  return `${Number(v.toFixed(digits))} ${units[i]}`
}

/** An amount of data as one reads it, ? while it is unknown: 17.3 TB. */
export const sizeWords = (bytes: number | undefined) =>
  bytes === undefined ? '?' : inUnits(bytes, 1000, ['B', 'kB', 'MB', 'GB', 'TB', 'PB'])
/** As makers sell it and as systems show it: 24 TB = 21.8 TiB. */
export const bothWords = (bytes: number) => `${sizeWords(bytes)} = ${inUnits(bytes, 1024, ['B', 'KiB', 'MiB', 'GiB', 'TiB', 'PiB'])}`

/** An age as one reads it: 9 h, 31 d. */
export const ageWords = (hours: number) => (hours < 48 ? `${Math.round(hours)} h` : `${Math.round(hours / 24)} d`)

/** What is lost of a dataset. */
export const lostWords = (l: LostPart) => (typeof l === 'string' ? 'all of it' : l.words)

/** A month as one reads it: August 2028. */
export function monthWords(month: string): string {
  const [year, n] = month.split('-').map(Number)
  return new Date(Date.UTC(year ?? 0, (n ?? 1) - 1)).toLocaleDateString('en-GB', { month: 'long', year: 'numeric', timeZone: 'UTC' })
}
