import { expect, test } from 'vitest'
import { inGB, memoryWords, saidOf, type GuestRow } from './useServices'

const gb = 2 ** 30
const guest = (more: Partial<GuestRow>): GuestRow => ({
  name: 'choir',
  id: 'g',
  kind: 'vm',
  state: 'running',
  running: true,
  many: 1,
  pinned: false,
  by_itself: false,
  services: [],
  inside: [],
  ...more,
})

test('memory is written as it is sold, and unknown is no nothing', () => {
  expect([24 * gb, 1.5 * gb, 0.5 * gb, 0, -2 * gb, undefined, 333.4 * gb].map(memoryWords)).toEqual([
    '24 GB',
    '1.5 GB',
    '512 MB',
    '0 GB',
    '-2 GB',
    '?',
    '333 GB',
  ])
  expect(inGB(1.25 * gb)).toBe(1.3)
})

test('a block says what the lens asks', () => {
  const g = guest({ given_bytes: 8 * gb, takes_bytes: 8 * gb, vcpus: 1, matters: 'household', supported_until: '2027-06' })
  expect([saidOf(g, 'memory'), saidOf(g, 'cores'), saidOf(g, 'matters'), saidOf(g, 'support')]).toEqual([
    '8 GB',
    '1 vCPU',
    'household',
    'until 2027-06',
  ])
  const unsaid = guest({ takes_bytes: 2 * gb, vcpus: undefined })
  expect([saidOf(unsaid, 'memory'), saidOf(unsaid, 'cores'), saidOf(unsaid, 'matters'), saidOf(unsaid, 'support')]).toEqual([
    'uses 2 GB',
    '?',
    'not said',
    '?',
  ])
})
