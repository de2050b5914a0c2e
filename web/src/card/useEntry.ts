// What is typed for one fact until it is kept or left, wherever facts are edited
// in place. A mistake is shown beside it, and so is what another window did to
// the same fact meanwhile; what was typed stays. It is kept as what was typed for
// the lab as it was when the field was opened, or when the other value was shown:
// the server then asks where another window was first.
import { ref, watch } from 'vue'
import { Refused, type Problem } from '../api/client'
import { say, useLab } from '../lab/useLab'

export interface Entry {
  /** What is known now, as one types it; '' while it is not. */
  now: () => string
  /** The same as it is shown, where that differs. */
  shown?: () => string | undefined
  /** The field is open. */
  open: () => boolean
  /** base is the revision of the lab that it was typed for. */
  keep: (text: string, base: number) => Promise<unknown>
  /** The field closes: it is kept, or was left as it was. */
  done: () => unknown
}

/** What is asked where another window set the same fact to something else. */
export const askedOf = (theirs: string | undefined) =>
  `Changed to ${theirs || 'unknown'} in another window. Enter keeps what you typed, Escape takes theirs.`

/** The same of a refusal; its own words where it is about something else. */
function whyNot(problem: Problem): string {
  const [clash, ...more] = problem.clashes ?? []
  return clash?.name && !more.length && (clash.theirs || clash.yours) ? askedOf(clash.theirs) : ''
}

export function useEntry(of: Entry) {
  const { lab } = useLab()
  const entry = ref('')
  const wrong = ref('')
  let started = ''
  let base = 0
  let sending = false

  function start() {
    started = of.now()
    base = lab.value?.revision ?? 0
    entry.value = started
    wrong.value = ''
  }
  watch(of.now, (now) => {
    if (!of.open() || sending) return
    if (entry.value === started) start()
    else if ((lab.value?.revision ?? 0) > base) {
      wrong.value = askedOf(of.shown?.() ?? now)
      base = lab.value?.revision ?? 0
    } // else it was asked about when it was refused
  })

  async function keep() {
    if (sending || !of.open()) return
    if (entry.value.trim() === of.now()) return of.done()
    sending = true
    try {
      await of.keep(entry.value, base)
      await of.done()
    } catch (e) {
      if (!(e instanceof Refused)) throw e
      wrong.value = whyNot(e.problem) || e.message
      if (e.problem.revision) base = e.problem.revision
      if (!of.open()) say(e.message, true) // a choice closes with what is chosen
    } finally {
      sending = false
    }
  }
  return { entry, wrong, start, keep }
}
