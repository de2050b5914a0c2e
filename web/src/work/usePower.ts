// The power of the lab that is looked at, asked for once for the drawing, the levels
// and the cards, while one of them is shown; and what is picked of it.
import { computed, ref, shallowRef } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'

export type PowerNode = Schemas['PowerNode']
export type Level = 'idle' | 'typical' | 'most' | 'boot'

/** The circuit that is picked, '' while none is. */
const circuit = ref('')
/** How hard all works, in the drawing. */
const level = ref<Level>('typical')
/** What is taken to be lost. */
const lost = shallowRef<Schemas['PowerLoss']>()

/** A power as one reads it: at least so much where something is unknown, ? where all is. */
export function wattsWords(w: number | undefined, lacks = 0): string {
  if (w === undefined) return '?'
  const said = w > 0 && w < 9.95 ? String(Math.round(w * 10) / 10) : String(Math.round(w))
  return lacks ? `≥ ${said}` : said
}
export const wattsOf = (n: PowerNode, at: Level) => wattsWords(n.watts[at], n.unknown_at[at])

const feeds = sharedReport(() => api('/api/v1/reports/feeds'))

/** What shows power asks for it, while wanted. */
export function usePower(wanted: () => boolean = () => true) {
  const power = feeds(wanted)
  const byId = computed(() => new Map((power.value?.nodes ?? []).map((n) => [n.id, n])))
  return { power, byId, circuit, level, lost }
}
