// How high the towers of hosts are drawn: to one scale, so that the highest fits, but no
// block lower than its name and what it has in it.
import type { Schemas } from '../api/client'

type Host = Pick<Schemas['HostRow'], 'tower' | 'kept_bytes' | 'left_bytes'>
type Guest = Pick<Schemas['GuestRow'], 'takes_bytes' | 'inside' | 'running' | 'handed_through'>

const gb = 2 ** 30
/** A block is no lower than its name, nor than the rows of what runs in it. */
const nameHigh = 24
const rowHigh = 23
const perRow = 2

export const leastOf = (g: Pick<Guest, 'inside' | 'handed_through'>) =>
  nameHigh + rowHigh * Math.ceil((g.inside.length + (g.handed_through ? 1 : 0)) / perRow)

/** How high an amount of memory is at a scale, at least so many pixels. */
export const high = (bytes: number | undefined, perGB: number, least = 0) => Math.max(least, Math.round(((bytes ?? 0) / gb) * perGB))

/** How high a host's tower is at a scale, in pixels. */
export function towerHigh(h: Host, perGB: number): number {
  const stopped = h.tower.filter((g) => !g.running).length
  const running = h.tower.filter((g) => g.running).reduce((sum, g) => sum + high(g.takes_bytes, perGB, leastOf(g)), 0)
  const kept = h.kept_bytes ? high(h.kept_bytes, perGB, 18) : 0
  const left = (h.left_bytes ?? 0) > 0 ? high(h.left_bytes, perGB, 16) : (h.left_bytes ?? 0) < 0 ? 18 : 0
  return running + kept + left + (stopped ? 6 + stopped * nameHigh : 0)
}

/** The largest scale at which the highest tower is no higher than there is room, in pixels of a GB. */
export function scaleFor(hosts: Host[], room: number): number {
  let [least, most] = [0.25, 64]
  const fits = (perGB: number) => hosts.every((h) => towerHigh(h, perGB) <= room)
  if (!fits(least)) return least
  for (let i = 0; i < 20; i++) {
    const half = (least + most) / 2
    if (fits(half)) least = half
    else most = half
  }
  return Math.min(24, least)
}
