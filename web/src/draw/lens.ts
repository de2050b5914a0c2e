// What the colours on a drawing mean at the moment. A colour never stands
// alone: each thing says its word too.
import type { Device, Schemas } from '../api/client'
import { traitsOf } from '../lab/words'
import { specOf } from './faceParts'

export type Lens = 'plain' | 'state' | 'age' | 'weight' | 'noise' | 'feeds' | 'pools'

export const lenses: { value: Lens; text: string; says: string }[] = [
  { value: 'plain', text: 'Plain', says: '' },
  { value: 'state', text: 'State', says: 'Coloured by state' },
  { value: 'age', text: 'Age', says: 'The darker, the older; with the year it was bought, and until when there is warranty' },
  { value: 'weight', text: 'Weight', says: 'The darker, the heavier' },
  { value: 'noise', text: 'Noise', says: 'The darker, the louder' },
  { value: 'pools', text: 'Pools', says: 'The darker, the fuller its pools; red past 80 %' },
  { value: 'feeds', text: 'Feeds', says: 'Coloured by the circuit or UPS it hangs on; red where one leg of several is plugged in' },
]

export interface Seen {
  fill: string
  /** Whether the fill is a dark one, for the ink on it. */
  dark: boolean
  word: string
}

/** A step of the one scale that all figures share, from 0 to 1. */
function shade(part: number, word: string): Seen {
  const step = Math.round(Math.min(1, Math.max(0, part)) * 4)
  return { fill: `color-mix(in srgb, var(--water) ${10 + step * 22}%, var(--sheet))`, dark: step >= 3, word }
}
const unknown: Seen = { fill: 'var(--sheet)', dark: false, word: '?' }

const ofState: Record<Schemas['State'], [fill: string, dark: boolean]> = {
  running: ['color-mix(in srgb, var(--moss) 45%, var(--sheet))', false],
  resting: ['color-mix(in srgb, var(--soft) 30%, var(--sheet))', false],
  waiting: ['color-mix(in srgb, var(--brass) 45%, var(--sheet))', false],
  spare: ['color-mix(in srgb, var(--pale) 45%, var(--sheet))', false],
  faulty: ['color-mix(in srgb, var(--red) 40%, var(--sheet))', false],
  leaving: ['color-mix(in srgb, var(--red) 14%, var(--sheet))', false],
}

/** How a thing looks through a lens; nothing through the plain one. */
export function through(lens: Lens, device: Device, sheets: Map<string, Schemas['SpecSheet']>, today: Date): Seen | undefined {
  const spec = specOf(device, sheets)
  switch (lens) {
    case 'plain':
    case 'feeds': // see fedBy
    case 'pools': // see pooled
      return undefined
    case 'state': {
      const [fill, dark] = ofState[device.state]
      return { fill, dark, word: device.state }
    }
    case 'age': {
      const until = device.warranty_until
      const warranty = until ? ` · ${until < today.toISOString().slice(0, until.length) ? 'over' : `to ${until.slice(0, 7)}`}` : ''
      if (!device.bought_on) return { ...unknown, word: traitsOf(device.device_kind).passive ? '' : `?${warranty}` }
      const years = today.getFullYear() - Number(device.bought_on.slice(0, 4))
      return shade(years / 8, `${device.bought_on.slice(0, 4)}${warranty}`)
    }
    case 'weight':
      return spec.weight_kg === undefined ? unknown : shade(spec.weight_kg / 30, `${spec.weight_kg} kg`)
    case 'noise':
      if (spec.noise_db !== undefined) return shade((spec.noise_db - 20) / 40, `${spec.noise_db} dB`)
      return { ...unknown, word: traitsOf(device.device_kind).passive ? '' : '?' }
  }
}

/** The hues that tell feeds apart, beside their names. */
const hues = ['var(--brass)', 'var(--water)', 'var(--moss)', 'var(--pale)']

/** How a thing looks by what feeds it, of all that has to do with power. */
export function fedBy(id: string, nodes: Map<string, Schemas['PowerNode']>): Seen | undefined {
  const n = nodes.get(id)
  if (!n) return { ...unknown, word: '' }
  const feeds = [...nodes.values()].filter((o) => o.kind === 'circuit' || o.kind === 'ups').map((o) => o.id)
  const names = n.hangs_on.map((f) => nodes.get(f)?.name ?? '?')
  if (!names.length) return n.kind === 'circuit' ? undefined : { ...unknown, word: 'fed by ?' }
  const loose = n.state === 'running' && !!n.one_leg
  const hue = loose ? 'var(--red)' : (hues[feeds.indexOf(n.hangs_on[0] ?? '') % hues.length] ?? 'var(--soft)')
  return { fill: `color-mix(in srgb, ${hue} 34%, var(--sheet))`, dark: false, word: `${names.join(', ')}${loose ? ' · one leg' : ''}` }
}

/** How a thing looks by the pools it runs or has drives of, the fullest first. */
export function pooled(id: string, pools: Schemas['PoolRow'][]): Seen {
  const here = pools.filter((p) => p.on_device_ids.includes(id))
  if (!here.length) return { ...unknown, word: '' }
  const part = (p: Schemas['PoolRow']) => {
    const room = (p.usable_bytes ?? 0) - p.kept_back_bytes
    return p.used_bytes === undefined || room <= 0 ? undefined : p.used_bytes / room
  }
  const full = Math.max(...here.map((p) => part(p) ?? -1))
  const word = here.map((p) => `${p.name} ${part(p) === undefined ? '?' : `${Math.round(100 * (part(p) ?? 0))} %`}`).join(', ')
  if (full > 0.8) return { fill: 'color-mix(in srgb, var(--red) 34%, var(--sheet))', dark: false, word }
  return full < 0 ? { ...unknown, word } : shade(full, word)
}
