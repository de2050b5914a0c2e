// What the links of the map are looked at for, and how a link looks then.
import type { Run } from '../../draw/network/layout'
import { rests } from '../../draw/network/graph'

export type NetLens = 'vlans' | 'subnets' | 'speed' | 'poe' | 'aggregates' | 'rests' | 'threads'

export const lenses: { lens: NetLens; text: string }[] = [
  { lens: 'vlans', text: 'VLANs' },
  { lens: 'subnets', text: 'Subnets' },
  { lens: 'speed', text: 'Speed' },
  { lens: 'poe', text: 'PoE' },
  { lens: 'aggregates', text: 'Aggregates' },
  { lens: 'rests', text: 'Rests' },
  { lens: 'threads', text: 'Threads' },
]

/** How fast the fastest of a bundle is, in Mbit/s; 0 while unknown. */
export const fastOf = (r: Run): number => Math.max(0, ...r.links.map((l) => l.speed_mb ?? 0))
/** How many devices are cut off when a link of a bundle is lost, at the most. */
export const cutsOf = (r: Run): number => Math.max(0, ...r.links.map((l) => l.cuts_off ?? 0))
/** How many run side by side in an aggregate. */
const together = (r: Run) => (r.links.length > 1 && r.links.every((l) => l.aggregate && !l.standby) ? `${r.links.length} × ` : '')
const short = (mb: number) => (mb >= 1000 ? `${mb / 1000}G` : `${mb}M`)

/** What is written beside a bundle; '' for nothing. */
export function label(lens: NetLens, r: Run): string {
  const standby = r.links.some((l) => l.standby)
  const fast = fastOf(r)
  if (lens === 'speed') return fast ? `${r.links.some((l) => l.at_most) ? '≤' : ''}${together(r)}${short(fast)}` : '?'
  if (lens === 'poe') return r.links.some((l) => l.poe) ? 'PoE' : ''
  if (lens === 'aggregates')
    return r.links[0]?.aggregate ? `${r.links[0].aggregate}${standby ? ', one stands by' : ` ×${r.links.length}`}` : ''
  if (lens === 'subnets') return ''
  if (lens === 'threads') return cutsOf(r) > 1 ? `cuts off ${cutsOf(r)}` : ''
  if (r.links.every((l) => l.rests)) return 'rests'
  if (r.links.some((l) => l.unsure)) return 'may rest'
  if (r.links.every((l) => l.down)) return 'carries nothing'
  return lens === 'rests' && standby ? 'one stands by' : ''
}

export interface Look {
  colour: string
  width: number
  dash?: string
}

/** How a bundle looks where it is not its VLANs that are looked at. */
export function look(lens: NetLens, r: Run): Look {
  const fast = fastOf(r)
  switch (lens) {
    case 'subnets':
      return { colour: 'var(--rule)', width: 2 }
    case 'speed':
      return fast ? { colour: 'var(--water)', width: 1.5 + Math.log10(fast / 10) * 1.6 } : { colour: 'var(--red)', width: 1.5, dash: '4 4' }
    case 'poe':
      return r.links.some((l) => l.poe) ? { colour: 'var(--brass)', width: 4 } : { colour: 'var(--rule)', width: 2 }
    case 'aggregates':
      return r.links.some((l) => l.aggregate) ? { colour: 'var(--water)', width: 5 } : { colour: 'var(--rule)', width: 2 }
    case 'threads': {
      const cuts = cutsOf(r)
      if (r.links.every((l) => l.down)) return { colour: 'var(--rule)', width: 2, dash: '2 5' }
      if (cuts > 1) return { colour: 'var(--red)', width: 3 }
      // What takes over is drawn as what it is: a link that rests, or that stands by.
      return cuts ? { colour: 'var(--soft)', width: 1.5 } : { colour: 'var(--water)', width: 3, ...(rests(r) ? { dash: '2 5' } : {}) }
    }
    default:
      return rests(r) || r.links.some((l) => l.unsure)
        ? { colour: 'var(--red)', width: 2.5, dash: '2 5' }
        : { colour: r.links.some((l) => l.standby) ? 'var(--brass)' : 'var(--soft)', width: 2 }
  }
}
