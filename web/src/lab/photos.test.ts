import { expect, test } from 'vitest'
import { photosOf, pictureOf } from './photos'

const photo = (id: string, device_id: string, order?: number) => ({ id, device_id, order, file: `sum-${id}`, width_px: 4, height_px: 3 })

test('photos of one device come in their order, the older of equals first', () => {
  const photos = new Map([photo('c', 'anvil', 1), photo('b', 'anvil'), photo('a', 'anvil', 1), photo('d', 'silo')].map((p) => [p.id, p]))
  expect(photosOf({ photos }, 'anvil').map((p) => p.id)).toEqual(['b', 'a', 'c'])
  expect(photosOf({ photos }, 'gate')).toEqual([])
  expect(photosOf(undefined, 'anvil')).toEqual([])
})

test('a picture is asked for by its sum', () => {
  expect(pictureOf(photo('a', 'anvil'))).toBe('/api/v1/pictures/sum-a')
  expect(pictureOf(photo('a', 'anvil'), true)).toBe('/api/v1/pictures/sum-a?thumbnail=true')
})
