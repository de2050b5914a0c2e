// What the server works out of the lab that is looked at, asked again whenever
// that changes. The last answer stays until the next one is there, so that
// nothing flickers.
import { shallowRef, watch, type ShallowRef } from 'vue'
import { get, Refused, view } from '../api/client'
import { useLab } from './useLab'

/** The answer of a path, which may change; none while the path is ''. */
export function useReport<T>(path: () => string): { data: ShallowRef<T | undefined>; wrong: ShallowRef<string> } {
  const { lab } = useLab()
  const data = shallowRef<T>()
  const wrong = shallowRef('')
  let asked = 0
  watch(
    [path, () => lab.value?.revision, view],
    async ([at], before) => {
      const turn = ++asked
      if (!at) {
        data.value = undefined
        return
      }
      if (at !== before[0] && at.split('?')[0] !== (before[0] ?? '').split('?')[0]) data.value = undefined
      try {
        const answer = await get<T>(at)
        if (turn !== asked) return
        data.value = answer
        wrong.value = ''
      } catch (e) {
        if (!(e instanceof Refused)) throw e
        if (turn === asked) wrong.value = e.message
      }
    },
    { immediate: true },
  )
  return { data, wrong }
}
