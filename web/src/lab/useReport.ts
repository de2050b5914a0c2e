// What the server works out of the lab that is looked at, asked again whenever
// that changes. The last answer stays until the next one is there, so that
// nothing flickers.
import { effectScope, onScopeDispose, ref, shallowRef, watch, type ShallowRef } from 'vue'
import type { Address } from '../api/address'
import { get, view } from '../api/client'
import { latest } from '../api/latest'
import { useLab } from './useLab'

/** The answer of an address, which may change; none while it is ''. */
export function useReport<A>(address: () => Address<A> | ''): { data: ShallowRef<A | undefined>; wrong: ShallowRef<string> } {
  const { lab } = useLab()
  const data = shallowRef<A>()
  const wrong = shallowRef('')
  const { ask } = latest()
  watch(
    [address, () => lab.value?.revision, view],
    ([at], before) => {
      if (!at || (at !== before[0] && at.split('?')[0] !== (before[0] ?? '').split('?')[0])) data.value = undefined
      return ask(
        async () => (at ? await get(at) : undefined),
        (answer) => {
          data.value = answer
          wrong.value = ''
        },
        (why) => (wrong.value = why),
      )
    },
    { immediate: true },
  )
  return { data, wrong }
}

/** An answer that several show: it is asked for once, as long as one of them wants it. */
export function sharedReport<A>(address: () => Address<A>): (wanted: () => boolean) => ShallowRef<A | undefined> {
  let data: ShallowRef<A | undefined> | undefined
  const shownBy = ref(0)
  return (wanted) => {
    data ??= effectScope(true).run(() => useReport(() => (shownBy.value ? address() : '')).data)
    watch(
      wanted,
      (now, before) => {
        if (now !== !!before) shownBy.value += now ? 1 : -1
      },
      { immediate: true },
    )
    onScopeDispose(() => wanted() && shownBy.value--)
    return data as ShallowRef<A | undefined>
  }
}
