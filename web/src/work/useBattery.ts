// How long UPSs hold what hangs on them, asked for once for all that shows it.
import { computed } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'

export type UPSHold = Schemas['UPSHold']

const report = sharedReport(() => api('/api/v1/reports/battery'))

/** What shows batteries asks for them, while wanted. */
export function useBattery(wanted: () => boolean = () => true) {
  const batteries = report(wanted)
  const byUPS = computed(() => new Map((batteries.value?.ups ?? []).map((u) => [u.id, u])))
  return { batteries, byUPS }
}

export const minutesWords = (m: number) => `${m < 10 ? Math.floor(m * 10) / 10 : Math.floor(m)} min`

/** What the minutes rest on, or why there are none. */
export function restsWords(u: UPSHold): string {
  if (u.bypass) return 'in bypass: it holds nothing'
  if (u.rests_on === 'unknown') return 'nothing says how long: 500W for 14min, or the Wh of its battery'
  if (u.minutes === undefined) return 'nothing is known to hang on it'
  const said = [
    u.tried ? 'from what somebody tried' : u.rests_on === 'points' ? "from its maker's points" : 'from the energy of its battery',
  ]
  if (u.beyond) said.push('beyond what those tell')
  if (u.left_known && u.left < 0.995) said.push(`battery at ${Math.round(100 * u.left)} %`)
  else if (!u.left_known && !u.tried) said.push('age of the battery not counted: its kind or date is unknown')
  if (u.load_at_least) said.push('no longer than that: some of the load is unknown')
  return said.join(', ')
}
