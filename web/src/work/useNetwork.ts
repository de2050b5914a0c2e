// The network of the lab that is looked at, asked for once for the map, the
// levels and the cards, while one of them is shown; and what is picked of it.
import { computed, ref, shallowRef } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { sharedReport } from '../lab/useReport'

/** The VLAN that is lit, by its number and domain. */
const lit = ref('')
/** The links that are picked on the map: one, or those of a bundle. */
const links = shallowRef<Schemas['MapLink'][]>([])

export const vlanKey = (v: { number: number; switching_domain?: string }) => `${v.number} ${v.switching_domain ?? ''}`

const asked = sharedReport(() => api('/api/v1/network/map'))

/** What is drawn of the network asks for it, while wanted; what only wants to know what is picked does not. */
export function useNetwork(wanted: () => boolean = () => true) {
  const map = asked(wanted)
  const vlans = computed(() => map.value?.vlans ?? [])
  const vlan = computed(() => vlans.value.find((v) => vlanKey(v) === lit.value))
  return { map, vlans, vlan, lit, links }
}
