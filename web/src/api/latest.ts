import { Refused } from './client'

/**
 * Asks one question after another, such as one at each letter, so that only the
 * answer to the latest counts: one to an earlier question that comes late is
 * dropped. A refusal is a sentence. Tells whether it was still the latest.
 */
export type Ask = <A>(question: () => Promise<A>, take: (answer: A) => void, refuse?: (why: string) => void) => Promise<boolean>

/** To ask, and to let what was asked last count no more. */
export function latest(): { ask: Ask; forget: () => void } {
  let asked = 0
  return {
    async ask(question, take, refuse = () => undefined) {
      const mine = ++asked
      try {
        const answer = await question()
        if (mine === asked) take(answer)
      } catch (e) {
        if (!(e instanceof Refused)) throw e
        if (mine === asked) refuse(e.message)
      }
      return mine === asked
    },
    forget: () => void asked++,
  }
}
