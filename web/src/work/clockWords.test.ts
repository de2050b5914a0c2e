import { expect, test } from 'vitest'
import { clockWords } from './clockWords'

test('seconds are minutes and seconds', () => {
  expect([0, 59.6, 61, 533.4, 3600].map(clockWords)).toEqual(['0:00', '1:00', '1:01', '8:53', '60:00'])
})
