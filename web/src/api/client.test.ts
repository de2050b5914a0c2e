import { afterEach, expect, test, vi } from 'vitest'
import { getLab, post, Refused } from './client'

const answer = (status: number, body: unknown, type = 'application/json') =>
  vi.fn(async () => new Response(status === 304 ? null : JSON.stringify(body), { status, headers: { 'Content-Type': type } }))

afterEach(() => vi.unstubAllGlobals())

test('a refusal is reported in the words of its one field', async () => {
  vi.stubGlobal(
    'fetch',
    answer(
      422,
      {
        type: 'about:blank',
        title: 'x',
        status: 422,
        detail: 'anvil, depth_mm: no',
        errors: [{ field: 'depth_mm', detail: '3 furlongs is not a length' }],
      },
      'application/problem+json',
    ),
  )
  const failed = await post('/api/v1/facts', { record: { kind: 'rack', id: 'a' }, field: 'name', text: '' }).catch((e: unknown) => e)
  expect(failed).toBeInstanceOf(Refused)
  expect((failed as Refused).message).toBe('3 furlongs is not a length')
  expect((failed as Refused).problem.status).toBe(422)
})

test('a refusal of several fields is reported as a whole', async () => {
  vi.stubGlobal(
    'fetch',
    answer(
      422,
      {
        type: 'about:blank',
        title: 'x',
        status: 422,
        detail: 'two things',
        errors: [
          { field: 'a', detail: '1' },
          { field: 'b', detail: '2' },
        ],
      },
      'application/problem+json',
    ),
  )
  await expect(post('/api/v1/changes', { changes: [] })).rejects.toThrow('two things')
})

test('no answer says so, and that nothing was changed', async () => {
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => {
      throw new TypeError('network')
    }),
  )
  await expect(post('/api/v1/changes', { changes: [] })).rejects.toThrow(
    'Levelstaff does not answer. Is it still running? Nothing was changed.',
  )
})

test('a lab that is known already is not read again', async () => {
  const fetch = answer(304, null)
  vi.stubGlobal('fetch', fetch)
  expect(await getLab(7)).toBeUndefined()
  expect(fetch).toHaveBeenCalledWith('/api/v1/lab', expect.objectContaining({ headers: { 'If-None-Match': '"7"' } }))
})
