// Which subnet is drawn, how far it was stepped into, and which address of it is
// picked; what is drawn of it is asked for once.
import { computed, effectScope, ref, watch, type ShallowRef } from 'vue'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { useReport } from '../lab/useReport'

export type RulerMark = Schemas['RulerMark']

const subnet = ref('')
const within = ref('')
/** The address that is picked, had or free. */
const picked = ref('')
/** The ruler is on the screen. */
const shown = ref(false)
let asked: { tree: ShallowRef<Schemas['SubnetTree'] | undefined>; ruler: ShallowRef<Schemas['Ruler'] | undefined> } | undefined

export function useAddresses() {
  asked ??= effectScope(true).run(() => {
    const { data: tree } = useReport(() => (shown.value ? api('/api/v1/network/subnets') : ''))
    const first = computed(() => tree.value?.branches.find((b) => b.subnet)?.subnet?.id ?? '')
    watch([tree, shown], () => {
      const there = tree.value?.branches.some((b) => b.subnet?.id === subnet.value)
      if (tree.value && !there) show(first.value)
    })
    const { data: ruler } = useReport(() =>
      shown.value && subnet.value ? api('/api/v1/network/ruler', { subnet: subnet.value, within: within.value }) : '',
    )
    return { tree, ruler }
  })
  const { tree, ruler } = asked as NonNullable<typeof asked>
  /** Who has an address; nothing for a free one. */
  const markAt = (address: string) => ruler.value?.marks.find((m) => m.address === address && m.n > 0)
  return { subnet, within, picked, shown, tree, ruler, markAt, show }
}

/** Draws a subnet, all of it, with nothing picked. */
function show(id: string) {
  subnet.value = id
  within.value = ''
  picked.value = ''
}
