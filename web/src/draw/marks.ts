// How a rack differs from what it is compared with: what comes, what goes and
// what moves within it.
import type { Comparison, Device, Spot } from '../api/client'

export interface Marks {
  /** Things that are new here: drawn as ghosts. */
  came: Set<string>
  /** Things as they were, that are gone from there: drawn as outlines, struck out. */
  went: Device[]
  /** Things that are elsewhere in the same rack. */
  moved: { from: Device; to: Device }[]
}

const inRack = (d: Device | undefined, rack: string) => d?.at?.where === 'units' && d.at.rack_id === rack

const same = (a?: Spot, b?: Spot) =>
  a?.where === b?.where &&
  a?.unit === b?.unit &&
  a?.face === b?.face &&
  a?.share === b?.share &&
  (a?.rack_id ?? a?.device_id ?? a?.place_id) === (b?.rack_id ?? b?.device_id ?? b?.place_id)

export function marksOf(compared: Comparison | undefined, rack: string): Marks {
  const marks: Marks = { came: new Set(), went: [], moved: [] }
  for (const { before, after } of compared?.devices ?? []) {
    const was = inRack(before, rack)
    const is = inRack(after, rack)
    if (same(before?.at, after?.at) && before?.takes_u === after?.takes_u) continue
    if (is && !was && after) marks.came.add(after.id)
    else if (was && !is && before) marks.went.push(before)
    else if (was && is && before && after) marks.moved.push({ from: before, to: after })
    else if (after?.at?.where === 'device' && !before) marks.came.add(after.id)
  }
  return marks
}
