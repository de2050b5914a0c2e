// What is said of a way: how wide it is, what one flow gets, what holds it down.
import type { Schemas } from '../api/client'
import { speedWords } from './trails'

export type Way = Schemas['WidestWay']

/** A list as one speaks: "a, b and c". */
export const listed = (words: string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`

/** How wide it is: "10 Gb/s", "at most 1 Gb/s", "width unknown"; why not, where there is none. */
export function widthWords(w: { speed_mb?: number; at_most?: boolean; why?: string }): string {
  if (w.why) return 'no way'
  if (w.speed_mb === undefined) return 'width unknown'
  return `${w.at_most ? 'at most ' : ''}${speedWords(w.speed_mb)}`
}

/** What else there is to say of it, a sentence each. */
export function waySays(w: Way): string[] {
  if (w.why) return [w.why]
  const says: string[] = []
  if (w.held_by.length) says.push(`Held down by ${listed(w.held_by.length > 4 ? [...w.held_by.slice(0, 4), 'others'] : w.held_by)}.`)
  if (w.one_flow_mb && w.speed_mb && w.one_flow_mb < w.speed_mb)
    says.push(`One flow gets ${speedWords(w.one_flow_mb)}: of aggregated links it takes one.`)
  if (w.standby.length) says.push(`${listed(w.standby)} ${w.standby.length === 1 ? 'stands' : 'stand'} by.`)
  else says.push('Nothing stands by.')
  if (w.may_rest.length)
    says.push(`It goes over ${listed(w.may_rest)}, which may rest: give a switch the lowest bridge priority to settle that.`)
  const unknown = w.hops.slice(0, -1).filter((h) => h.out_mb === undefined).length
  if (unknown) says.push(`The speed of ${unknown === 1 ? 'one link' : `${unknown} links`} on it is unknown.`)
  return says
}
