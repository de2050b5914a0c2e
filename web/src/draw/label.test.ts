import { expect, test } from 'vitest'
import type { Device } from '../api/client'
import { labelOf, toldApart } from './label'

test('names are told apart by what they do not share', () => {
  expect(toldApart(['node 1-1', 'node 1-12', 'node 1-2'])).toEqual(['1', '12', '2'])
  expect(toldApart(['finch', 'finch two'])).toEqual(['finch', 'two'])
  expect(toldApart(['wren', 'wrasse'])).toEqual(['wren', 'wrasse'])
  expect(toldApart(['a', 'a'])).toEqual(['a', 'a'])
  expect(toldApart(['alone'])).toEqual(['alone'])
  expect(toldApart([])).toEqual([])
})

test('a name has the room that its face has for it', () => {
  const server: Device = { id: 's', name: 'a long name of a server', device_kind: 'server', state: 'running' }
  const text = (w: number, h: number, as = {}, more: Partial<Device> = {}) =>
    labelOf({ ...server, ...more }, { x: 0, y: 0, w, h }, 0.5, as)?.text
  expect(text(482, 44)).toBe('a long name of a server') // beside the sign of a server
  expect(text(170, 20)).toBe('a long name of a server')
  expect(text(170, 8)).toBeUndefined()
  // Eight bays of 3.5 inches, four in a row, begin at 482 - 12 - 4 * 44 - 3 * 1 = 291 px at half a pixel a millimetre.
  expect(text(482, 44, {}, { bays: [{ count: 8, form: '3.5in' }] })).toBe('a long name of a server')
  expect(text(240, 44, {}, { bays: [{ count: 8, form: '3.5in' }] })).toBe('a long name…')
  expect(text(13, 20, { small: true, short: '12' })).toBe('12') // on end
  expect(text(8, 20, { small: true, short: '12' })).toBe('')
  expect(text(13, 12, { small: true, short: '12' })).toBe('')
  expect(text(16, 20, { small: true, short: '12' })).toBe('12')
  expect(text(200, 20, { small: true, short: '12' })).toBe('a long name of a server')
})
