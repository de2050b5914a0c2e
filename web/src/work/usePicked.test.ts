import { expect, test } from 'vitest'
import { picked, pickedOn, pickRecord } from './usePicked'

test('what is picked has its card on the sheet of its kind alone', () => {
  const [storage, services] = [pickedOn('/storage'), pickedOn('/services')]
  expect(pickRecord({ kind: 'device', id: 'x' })).toBe(false)
  expect(picked.value).toBeUndefined()
  expect(pickRecord({ kind: 'stack', id: 's' })).toBe(true)
  expect([services.value, storage.value]).toEqual([{ kind: 'stack', id: 's' }, undefined])
  storage.value = { kind: 'pool', id: 'p' }
  expect([services.value, storage.value]).toEqual([undefined, { kind: 'pool', id: 'p' }])
})
