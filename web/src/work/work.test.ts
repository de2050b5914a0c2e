import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, test } from 'vitest'
import { nextTick } from 'vue'
import type { Device } from '../api/client'
import { stateOf, useLab } from '../lab/useLab'
import { useWork } from './work'

const mounted = (id: string, unit: number): Device => ({
  id,
  name: id,
  device_kind: 'server',
  state: 'running',
  takes_u: 1,
  at: { where: 'units', rack_id: 'r', unit, face: 'front', share: 'whole' },
})
const { lab } = useLab()

beforeEach(() => {
  setActivePinia(createPinia())
  lab.value = stateOf({
    revision: 1,
    view: { kind: 'built' },
    places: [{ id: 'p', name: 'Loft' }],
    racks: [
      { id: 'r', name: 'Pantry', height_u: 9 },
      { id: 's', name: 'Dome', height_u: 6 },
    ],
    devices: [
      mounted('a', 9),
      mounted('b', 7),
      mounted('c', 5),
      mounted('d', 3),
      { id: 'ap', device_kind: 'access_point', state: 'running', at: { where: 'place', place_id: 'p' } },
    ],
    holdings: [
      { holder_id: 'r', rack_id: 'r', device_ids: ['a', 'b', 'c', 'd'] },
      { holder_id: 'p', place_id: 'p', device_ids: ['ap'] },
    ],
  })
})

describe('what is picked', () => {
  test('more than one thing, one by one, and off again', () => {
    const work = useWork()
    work.pickAlso('a')
    work.pickAlso('c')
    work.pickAlso('a')
    expect(work.together.map((d) => d.id)).toEqual(['a', 'c'])
    work.pickAlso('c')
    expect(work.together.map((d) => d.id)).toEqual(['a'])
    work.pickAlso('b')
    work.pick('d')
    expect(work.together.map((d) => d.id)).toEqual(['d'])
  })

  test('all along the staff up to another thing, either way', () => {
    const work = useWork()
    work.pick('c')
    work.pickTo('a')
    expect(work.together.map((d) => d.id)).toEqual(['c', 'a', 'b'])
    work.pickTo('d')
    expect(work.together.map((d) => d.id)).toEqual(['c', 'd'])
    work.pickTo('ap')
    expect(work.deviceId, 'what is not along this staff is picked by itself').toBe('ap')
    expect(work.place?.name).toBe('Loft')
  })

  test('what goes from the lab is no longer picked', async () => {
    const work = useWork()
    work.pick('a')
    work.pickAlso('b')
    const devices = new Map(lab.value?.devices)
    devices.delete('b')
    if (lab.value) lab.value = { ...lab.value, devices }
    await nextTick()
    expect(work.together.map((d) => d.id)).toEqual(['a'])
    if (lab.value) lab.value = { ...lab.value, devices: new Map() }
    await nextTick()
    expect(work.deviceId).toBe('')
    expect(work.rack?.name).toBe('Pantry')
  })
})

describe('the port that is picked', () => {
  test('gives way to whatever is picked next, also its own device', () => {
    const work = useWork()
    for (const next of [() => work.pick('a'), () => work.pick('b'), () => work.pickRack('s'), () => work.pickPlace('p')]) {
      work.pick('a')
      work.port = { device_id: 'a', port: '1' }
      next()
      expect(work.port).toBeUndefined()
    }
  })

  test('stays while a cable is led from it to somewhere else', () => {
    const work = useWork()
    work.port = { device_id: 'a', port: '1' }
    work.leading = true
    work.pick('b')
    work.pickRack('s')
    expect(work.port).toEqual({ device_id: 'a', port: '1' })
  })

  test('stays over a change, unless its device went with it', async () => {
    const work = useWork()
    work.pick('a')
    work.port = { device_id: 'a', port: '1' }
    const devices = [mounted('a', 1), mounted('b', 7)]
    lab.value = stateOf({ revision: 2, view: { kind: 'built' }, racks: [{ id: 'r', name: 'Pantry', height_u: 9 }], devices })
    await nextTick()
    expect(work.port).toBeDefined()
    lab.value = stateOf({
      revision: 3,
      view: { kind: 'built' },
      racks: [{ id: 'r', name: 'Pantry', height_u: 9 }],
      devices: devices.slice(1),
    })
    await nextTick()
    expect(work.port).toBeUndefined()
  })
})
