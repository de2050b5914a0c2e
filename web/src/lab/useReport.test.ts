import { afterEach, beforeEach, expect, test, vi } from 'vitest'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import type { Address } from '../api/address'
import { useReport } from './useReport'

/** Answers that are given when the test says so, by the path that asked. */
let waiting: { path: string; answer: (body: unknown, status?: number) => Promise<void> }[] = []
let scope: EffectScope

beforeEach(() => {
  waiting = []
  scope = effectScope()
  vi.stubGlobal(
    'fetch',
    (path: string) =>
      new Promise<Response>((done) =>
        waiting.push({
          path,
          answer: (body, status = 200) =>
            settle(() =>
              done(
                new Response(JSON.stringify(body), {
                  status,
                  headers: { 'Content-Type': status === 200 ? 'application/json' : 'application/problem+json' },
                }),
              ),
            ),
        }),
      ),
  )
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})

/** Lets everything that waits for an answer go on. */
async function settle(act: () => void) {
  act()
  for (let i = 0; i < 20; i++) await Promise.resolve()
  await nextTick()
}
function asking(path: () => string) {
  const report = scope.run(() => useReport(path as () => Address<string>))
  if (!report) throw new Error('the scope has ended')
  return report
}
function last() {
  const question = waiting.at(-1)
  if (!question) throw new Error('nothing was asked')
  return question
}

test('the answer to an older question that comes late is dropped', async () => {
  const words = ref('a')
  const { data } = asking(() => `/api/v1/tables/devices?filter=${words.value}`)
  const first = last()
  words.value = 'ab'
  await nextTick()
  expect(waiting).toHaveLength(2)
  await last().answer('rows of ab')
  await first.answer('rows of a')
  expect(data.value).toBe('rows of ab')
})

test('while the same thing is asked in another way the last answer stays, another thing begins with none', async () => {
  const path = ref('/api/v1/devices/anvil/card?x=1')
  const { data } = asking(() => path.value)
  await last().answer('anvil')
  path.value = '/api/v1/devices/anvil/card?x=2'
  await nextTick()
  expect(data.value).toBe('anvil')
  path.value = '/api/v1/devices/silo/card'
  await nextTick()
  expect(data.value).toBeUndefined()
  path.value = ''
  await nextTick()
  expect(data.value).toBeUndefined()
  expect(waiting).toHaveLength(3)
})

test('a refusal is reported, the last answer stays, and the next one clears it', async () => {
  const words = ref('ram>1GB')
  const { data, wrong } = asking(() => `/api/v1/tables/devices?filter=${words.value}`)
  await last().answer('one row')
  words.value = 'ram>red'
  await nextTick()
  await last().answer({ type: 'about:blank', title: 'x', status: 422, detail: '“red” is not a size' }, 422)
  expect(wrong.value).toBe('“red” is not a size')
  expect(data.value).toBe('one row')
  words.value = 'ram>2GB'
  await nextTick()
  await last().answer('no row')
  expect([wrong.value, data.value]).toEqual(['', 'no row'])
})
