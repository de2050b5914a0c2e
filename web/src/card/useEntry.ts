// What is typed for one fact until it is kept or left, wherever facts are edited
// in place. A mistake is shown beside it, and so is what another window did to
// the same fact meanwhile; what was typed stays.
import { ref, watch } from 'vue'
import { Refused } from '../api/client'

export interface Entry {
  /** What is known now, as one types it; '' while it is not. */
  now: () => string
  /** The same as it is shown, where that differs. */
  shown?: () => string | undefined
  /** The field is open. */
  open: () => boolean
  keep: (text: string) => Promise<unknown>
  /** The field closes: it is kept, or was left as it was. */
  done: () => unknown
}

export function useEntry(of: Entry) {
  const entry = ref('')
  const wrong = ref('')
  let started = ''
  let sending = false

  function start() {
    started = of.now()
    entry.value = started
    wrong.value = ''
  }
  watch(of.now, (now) => {
    if (!of.open() || sending) return
    if (entry.value === started) start()
    else
      wrong.value = `Changed to ${(of.shown?.() ?? now) || 'unknown'} in another window. Enter keeps what you typed, Escape takes theirs.`
  })

  async function keep() {
    if (sending || !of.open()) return
    if (entry.value.trim() === of.now()) return of.done()
    sending = true
    try {
      await of.keep(entry.value)
      await of.done()
    } catch (e) {
      if (!(e instanceof Refused)) throw e
      wrong.value = e.message
    } finally {
      sending = false
    }
  }
  return { entry, wrong, start, keep }
}
