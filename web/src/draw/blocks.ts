// A pool as blocks as long as they are large: what is on it, what is free, what is
// redundancy, what no set can use, and spares.
import type { PoolRow } from '../work/useStorage'

export interface Block {
  key: string
  name: string
  bytes: number
  kind: 'data' | 'other' | 'free' | 'kept' | 'parity' | 'unused' | 'spare'
  /** What is said of it in the place of its size. */
  says?: string
}

/** The blocks of a pool, in order; none while its room is unknown. */
export function blocksOf(p: PoolRow): Block[] {
  const usable = p.usable_bytes ?? 0
  if (!usable) return []
  const list: Block[] = []
  let on = 0
  for (const d of p.datasets) {
    if (d.size_bytes === undefined && d.days_kept === undefined) continue
    // What cameras write fills what is left.
    const bytes = d.size_bytes ?? Math.max(0, usable - p.kept_back_bytes - on)
    const says = d.days_kept === undefined ? undefined : `${Math.floor(d.days_kept)} days`
    list.push({ key: d.id, name: d.name, bytes, kind: 'data', ...(says ? { says } : {}) })
    on += bytes
  }
  if (p.copies_bytes) {
    list.push({ key: 'copies', name: 'copies of others', bytes: p.copies_bytes, kind: 'other' })
    on += p.copies_bytes
  }
  const used = p.used_bytes ?? 0
  if (used > on) {
    list.push({ key: 'other', name: on ? 'else' : 'used', bytes: used - on, kind: 'other' })
    on = used
  }
  const free = usable - p.kept_back_bytes - on
  if (free > 0) list.push({ key: 'free', name: on || p.used_bytes !== undefined ? 'free' : 'usable', bytes: free, kind: 'free' })
  if (p.kept_back_bytes > 0) list.push({ key: 'kept', name: 'kept back', bytes: p.kept_back_bytes, kind: 'kept' })
  const parity = p.words.startsWith('mirror') ? 'mirrored' : 'redundancy'
  if (p.redundancy_bytes) list.push({ key: 'parity', name: parity, bytes: p.redundancy_bytes, kind: 'parity' })
  if (p.unused_bytes > 0) list.push({ key: 'unused', name: 'unused', bytes: p.unused_bytes, kind: 'unused' })
  if (p.spare_bytes > 0) list.push({ key: 'spare', name: 'spare', bytes: p.spare_bytes, kind: 'spare' })
  return list
}

/** How long a pool is when drawn: more may be on it than there is room for. */
export const lengthOf = (p: PoolRow) =>
  Math.max(
    (p.raw_bytes ?? 0) + p.spare_bytes,
    blocksOf(p).reduce((sum, b) => sum + b.bytes, 0),
  )

/** Whether a block is too narrow for what it says, by the width of its letters in pixels. */
export const isNarrow = (width: number, name: string, says: string) => width < 15 + 7.4 * Math.max(name.length, says.length)
