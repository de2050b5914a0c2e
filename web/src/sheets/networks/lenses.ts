// What the links of the map are looked at for.
export type NetLens = 'vlans' | 'speed' | 'poe' | 'aggregates' | 'rests'

export const lenses: { lens: NetLens; text: string }[] = [
  { lens: 'vlans', text: 'VLANs' },
  { lens: 'speed', text: 'Speed' },
  { lens: 'poe', text: 'PoE' },
  { lens: 'aggregates', text: 'Aggregates' },
  { lens: 'rests', text: 'What rests' },
]
