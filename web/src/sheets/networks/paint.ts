// What a port carries while it is being painted, until the lab has answered.
import type { Schemas } from '../../api/client'

export type Brush = Schemas['VLANCell']['as']

export interface Carried {
  /** 0 for none. */
  untagged: number
  tagged: ReadonlySet<number> | 'all'
}

/** The numbers in a list such as 20,30-35. */
export function numbersIn(list: string): Set<number> {
  const numbers = new Set<number>()
  for (const part of list.split(',').filter(Boolean)) {
    const [from = 0, to = from] = part.split('-').map(Number)
    for (let n = from; n <= to; n++) numbers.add(n)
  }
  return numbers
}

export const carriedOf = (p: { untagged?: number; tagged?: string }): Carried => ({
  untagged: p.untagged ?? 0,
  tagged: p.tagged === 'all' ? 'all' : numbersIn(p.tagged ?? ''),
})

/** What it carries with one cell painted. */
export function painted(is: Carried, number: number, as: Brush): Carried {
  if (is.tagged === 'all') return { untagged: as === 'untagged' ? number : is.untagged === number ? 0 : is.untagged, tagged: 'all' }
  const tagged = new Set(is.tagged)
  if (as === 'tagged') tagged.add(number)
  else tagged.delete(number)
  return { untagged: as === 'untagged' ? number : is.untagged === number ? 0 : is.untagged, tagged }
}

/** How a VLAN is carried: U, T, or not. */
export const markOf = (is: Carried, number: number): '' | 'U' | 'T' =>
  is.untagged === number ? 'U' : is.tagged === 'all' || is.tagged.has(number) ? 'T' : ''
