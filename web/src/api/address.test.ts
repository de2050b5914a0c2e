import { expect, test } from 'vitest'
import { api, fill } from './address'

test('what goes into a path or its query is escaped, and what is not said is left out', () => {
  expect(api('/api/v1/racks/{id}/wiring', { id: 'a/b c' })).toBe('/api/v1/racks/a%2Fb%20c/wiring')
  expect(api('/api/v1/find', { q: 'ram & “disks”' })).toBe('/api/v1/find?q=ram+%26+%E2%80%9Cdisks%E2%80%9D')
  expect(api('/api/v1/walk', { rack_id: undefined })).toBe('/api/v1/walk')
  expect(api('/api/v1/tables/devices', { filter: '', sort: '-name' })).toBe('/api/v1/tables/devices?sort=-name')
})

test('a list is said one by one, and false is something', () => {
  expect(fill('/x/{id}', { id: 1, device_id: ['a', 'b'], rear: false })).toBe('/x/1?device_id=a&device_id=b&rear=false')
})
