import { expect, test } from 'vitest'
import { Refused } from './client'
import { latest } from './latest'

/** A question that is answered when the test says so. */
function question<A>() {
  let answer!: (a: A) => void
  let refuse!: (e: unknown) => void
  const asked = new Promise<A>((ok, no) => ([answer, refuse] = [ok, no]))
  return { asked: () => asked, answer, refuse }
}
const refusal = (detail: string) => new Refused({ type: 'about:blank', title: 'x', status: 422, detail })

test('the answer to an earlier question is dropped, and so is its refusal', async () => {
  const { ask } = latest()
  const got: string[] = []
  const [a, b, c] = [question<string>(), question<string>(), question<string>()]
  const take = (s: string) => void got.push(s)
  const no = (why: string) => void got.push(`no: ${why}`)
  const all = [ask(a.asked, take, no), ask(b.asked, take, no), ask(c.asked, take, no)]
  c.answer('third')
  a.answer('first')
  b.refuse(refusal('second'))
  expect(await Promise.all(all)).toEqual([false, false, true])
  expect(got).toEqual(['third'])
})

test('a refusal is a sentence, a fault is thrown, and what is forgotten counts no more', async () => {
  const { ask, forget } = latest()
  const got: string[] = []
  const [a, b, c] = [question<string>(), question<string>(), question<string>()]
  const first = ask(
    a.asked,
    () => undefined,
    (why) => void got.push(why),
  )
  a.refuse(refusal('no such thing'))
  expect(await first).toBe(true)
  expect(got).toEqual(['no such thing'])
  const second = ask(b.asked, () => undefined)
  b.refuse(new Error('a fault'))
  await expect(second).rejects.toThrow('a fault')
  const third = ask(c.asked, (s) => void got.push(s))
  forget()
  c.answer('too late')
  expect(await third).toBe(false)
  expect(got).toHaveLength(1)
})
