// Between which two devices a way is looked for, over all links or those of one
// VLAN, and what it comes to: the same on the sheet, on the map and on cards.
import { computed, reactive, type ShallowRef } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'

const asked = reactive({ from: '', to: '', vlan: 0 })

/** Which devices are asked about. */
export function useWay() {
  const { lab } = useLab()
  const known = (id: string) => (lab.value?.devices.has(id) ? id : '')
  const between = computed(() => {
    const [from, to] = [known(asked.from), known(asked.to)]
    return from && to && from !== to ? { from, to, ...(asked.vlan ? { vlan: String(asked.vlan) } : {}) } : undefined
  })
  /** Asks about two of them; one that is left out stays. */
  function ask(of: Partial<typeof asked>) {
    Object.assign(asked, of)
  }
  return { asked, between, ask }
}

/** The way itself, while two devices are named. */
export function useWayFound(): {
  way: ShallowRef<Schemas['WidestWay'] | undefined>
  wrong: ShallowRef<string>
} {
  const { between } = useWay()
  const { data, wrong } = useReport(() => (between.value ? api('/api/v1/ways', between.value) : ''))
  return { way: data, wrong }
}
