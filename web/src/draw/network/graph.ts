// The network as it is drawn: devices of places that are folded are one box, the
// many leaves of a switch are one box with their names, and what runs side by
// side between two boxes is one bundle of strands, a VLAN each.
import type { Schemas } from '../../api/client'

type MapNode = Schemas['MapNode']
type MapLink = Schemas['MapLink']
export type Stratum = Schemas['Stratum']

/** The strata, from the top down. */
export const strata: Stratum[] = ['outside', 'edge', 'core', 'access', 'things']

/** A box on the map: a device, the leaves of a switch, or a place. */
export interface Box {
  id: string
  title: string
  /** Empty where the title says it. */
  kind: string
  stratum: Stratum
  /** The devices in it, by title; one, unless it gathers several. */
  holds: MapNode[]
  /** How it gathers several. */
  gathers?: 'leaves' | 'place'
  root: boolean
}

/** A bundle between two boxes: of one link, of the links of an aggregate, or of all to what is gathered. */
export interface Bundle {
  id: string
  a: string
  b: string
  links: MapLink[]
  strands: Strand[]
}

/** A VLAN on a bundle; loose where a piece of its spread is cut off from the largest. */
export interface Strand {
  vlan: number
  tagged: boolean
  loose: boolean
}

/** What a box says beside its title. */
export const besideTitle = (b: Box): string => [b.kind, b.root ? 'root' : ''].filter(Boolean).join(' · ')

/** Above so many leaves, they are gathered. */
const fewLeaves = 4

export interface Folds {
  /** Places that are folded into one box each. */
  places: ReadonlySet<string>
  /** Switches whose leaves are shown one by one, however many. */
  opened: ReadonlySet<string>
}

export function graphOf(map: { nodes: MapNode[]; links: MapLink[] }, folds: Folds): { boxes: Box[]; bundles: Bundle[] } {
  const leaves = new Map<string, MapNode[]>()
  for (const n of map.nodes) {
    if (!n.leaf_of || (n.place && folds.places.has(n.place))) continue
    leaves.set(n.leaf_of, [...(leaves.get(n.leaf_of) ?? []), n])
  }
  const boxOf = new Map<string, string>()
  const boxes = new Map<string, Box>()
  for (const n of map.nodes) {
    const near = n.leaf_of ? (leaves.get(n.leaf_of) ?? []) : []
    const folded = n.place && folds.places.has(n.place)
    const gathered = !folded && near.length > fewLeaves && !folds.opened.has(n.leaf_of ?? '')
    const id = folded ? `place ${n.place}` : gathered ? `leaves ${n.leaf_of}` : n.id
    boxOf.set(n.id, id)
    const box = boxes.get(id)
    if (box) {
      box.holds.push(n)
      box.root ||= !!n.root
      if (strata.indexOf(n.stratum) < strata.indexOf(box.stratum)) box.stratum = n.stratum
      continue
    }
    boxes.set(id, {
      id,
      title: folded ? (n.place ?? '') : n.title,
      kind: folded ? 'place' : saysItself(n) ? '' : n.short,
      stratum: n.stratum,
      holds: [n],
      root: !!n.root,
      ...(folded ? { gathers: 'place' as const } : gathered ? { gathers: 'leaves' as const } : {}),
    })
  }
  for (const box of boxes.values()) box.holds.sort((a, b) => a.title.localeCompare(b.title, 'en', { numeric: true }))
  const bundles = new Map<string, Bundle>()
  map.links.forEach((l, i) => {
    const a = boxOf.get(l.a_device_id)
    const b = boxOf.get(l.b_device_id)
    if (!a || !b || a === b) return
    const [from, to] = upper(boxes.get(a), boxes.get(b)) ? [a, b] : [b, a]
    const alone = !boxes.get(a)?.gathers && !boxes.get(b)?.gathers
    const id = alone ? (l.aggregate ? `${from} ${to} ${l.aggregate}` : (l.cable_id ?? `${from} ${to} ${i}`)) : `${from} ${to}`
    const bundle = bundles.get(id) ?? { id, a: from, b: to, links: [], strands: [] }
    bundle.links.push(l)
    bundles.set(id, bundle)
  })
  for (const bundle of bundles.values()) bundle.strands = strandsOf(bundle.links)
  return { boxes: [...boxes.values()], bundles: [...bundles.values()] }
}

/** "loft switch" says what it is. */
const saysItself = (n: MapNode) => ` ${n.title.toLowerCase()} `.includes(` ${n.short.toLowerCase()} `)
const upper = (a?: Box, b?: Box) => strata.indexOf(a?.stratum ?? 'things') <= strata.indexOf(b?.stratum ?? 'things')

/** Each VLAN once: untagged where it is so on any of the links. */
function strandsOf(links: MapLink[]): Strand[] {
  const by = new Map<number, Strand>()
  for (const s of links.flatMap((l) => l.strands)) {
    const known = by.get(s.vlan)
    by.set(s.vlan, { vlan: s.vlan, tagged: !!s.tagged && known?.tagged !== false, loose: s.piece > 0 || !!known?.loose })
  }
  return [...by.values()].sort((a, b) => a.vlan - b.vlan)
}

/** Whether all links of a bundle rest, or none of them carries anything. */
export const rests = (b: Bundle): boolean => b.links.every((l) => l.rests || l.standby)
