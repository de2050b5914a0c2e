// The network of the lab that is looked at, asked for once for the map, the
// levels and the cards, while one of them is shown; and what is picked of it.
import { computed, effectScope, onScopeDispose, ref, shallowRef, watch, type ShallowRef } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { useReport } from '../lab/useReport'

type NetworkMap = Schemas['NetworkMap']

let data: ShallowRef<NetworkMap | undefined> | undefined
const shownBy = ref(0)
/** The VLAN that is lit, by its number and domain. */
const lit = ref('')
/** The links that are picked on the map: one, or those of a bundle. */
const links = shallowRef<Schemas['MapLink'][]>([])

export const vlanKey = (v: { number: number; switching_domain?: string }) => `${v.number} ${v.switching_domain ?? ''}`

/** What is drawn of the network asks for it, while wanted; what only wants to know what is picked does not. */
export function useNetwork(wanted: () => boolean = () => true) {
  data ??= effectScope(true).run(() => useReport(() => (shownBy.value ? api('/api/v1/network/map') : '')).data)
  watch(
    wanted,
    (now, before) => {
      if (now !== !!before) shownBy.value += now ? 1 : -1
    },
    { immediate: true },
  )
  onScopeDispose(() => wanted() && shownBy.value--)
  const map = data as ShallowRef<NetworkMap | undefined>
  const vlans = computed(() => map.value?.vlans ?? [])
  const vlan = computed(() => vlans.value.find((v) => vlanKey(v) === lit.value))
  return { map, vlans, vlan, lit, links }
}
