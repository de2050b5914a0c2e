import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { effectScope, nextTick, type EffectScope } from 'vue'
import type { Device, Schemas } from '../api/client'
import { notice, stateOf, useLab } from '../lab/useLab'
import { endOf, jackWords, keyOfJack, sameEnd, useCabling, usePartners, type Jack } from './useCabling'
import { useWork } from './work'

const sw = (id: string): Device => ({ id, name: id, device_kind: 'switch', state: 'running' })
const jack = (port: string, more: Partial<Jack> = {}): Jack => ({ port, face: 'front', group: 0, index: 0, family: 'copper', ...more })
const plugged: Schemas['Cable'] = {
  id: 'c',
  state: 'in_use',
  cable_kind: 'cat6',
  a: { device_id: 'core', port: '1' },
  b: { device_id: 'panel', port: '1' },
}
const air: Schemas['Cable'] = { id: 'w', state: 'in_use', cable_kind: 'wireless', a: { device_id: 'core', port: '1' } }
const { lab } = useLab()
let asked: { path: string; body?: unknown }[]
let answers: { status: number; body: unknown }[]
let scope: EffectScope

beforeEach(() => {
  setActivePinia(createPinia())
  asked = []
  answers = []
  scope = effectScope()
  notice.text = ''
  lab.value = stateOf({ revision: 1, view: { kind: 'built' }, devices: [sw('core'), sw('panel'), sw('gate')], cables: [air, plugged] })
  vi.stubGlobal('fetch', async (path: string, init?: RequestInit) => {
    asked.push({ path, ...(init?.body ? { body: JSON.parse(String(init.body)) } : {}) })
    const { status, body } = answers.shift() ?? { status: 200, body: { revision: 2, view: { kind: 'built' } } }
    return new Response(JSON.stringify(body), {
      status,
      headers: { 'Content-Type': status === 200 ? 'application/json' : 'application/problem+json' },
    })
  })
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})

async function settle() {
  for (let i = 0; i < 12; i++) await nextTick()
}

describe('ports', () => {
  test('are the same where device, port and side are', () => {
    const front = { device_id: 'p', port: '3' }
    expect(sameEnd(front, { ...front, rear: false })).toBe(true)
    expect(sameEnd(front, { ...front, rear: true })).toBe(false)
    expect(sameEnd(front, undefined)).toBe(false)
    expect(sameEnd(undefined, undefined)).toBe(false)
    expect(keyOfJack('p', front)).not.toBe(keyOfJack('p', { port: '3', rear: true }))
    expect(endOf('p', jack('3', { rear: true }))).toEqual({ device_id: 'p', port: '3', rear: true })
    expect(endOf('p', jack('3'))).toEqual(front)
  })

  test('are spoken of with what is in them, or what may go there', () => {
    const says = (more: Partial<Jack>, partner?: Partial<Schemas['Partner']>) =>
      jackWords(sw('core'), jack('3', more), partner && { device_id: 'core', port: '3', ...partner })
    expect(says({})).toBe('core 3: free')
    expect(says({ cable_id: 'c', to: 'PP1/3' })).toBe('core 3: to PP1/3')
    expect(says({ cable_id: 'c' })).toBe('core 3: to unknown end')
    expect(says({ broken: true, note: 'bent pin' })).toBe('core 3: broken. bent pin')
    expect(says({ reserved_for: 'the camera', name: 'uplink' })).toBe('core 3, uplink: reserved for the camera')
    expect(says({ rear: true }, {})).toBe('core 3 rear: possible')
    expect(says({ cable_id: 'c' }, { why: 'it is broken' })).toBe('core 3: no: it is broken')
  })
})

describe('a cable in a port', () => {
  test('is found from either end, and a link by air takes no port', () => {
    const { cableAt } = useCabling()
    expect(cableAt({ device_id: 'core', port: '1' })?.id).toBe('c')
    expect(cableAt({ device_id: 'panel', port: '1' })?.id).toBe('c')
    expect(cableAt({ device_id: 'panel', port: '1', rear: true })).toBeUndefined()
    expect(cableAt(undefined)).toBeUndefined()
  })
})

describe('what sets a port apart', () => {
  const sent = () => (asked.at(-1)?.body as { changes: { put: Device }[] }).changes[0]?.put.port_marks

  test('is kept with its device, beside what is said of other ports', async () => {
    const core = {
      ...sw('core'),
      port_marks: [
        { port: '9', name: 'uplink' },
        { port: '3', note: 'bent' },
      ],
    }
    lab.value = stateOf({ revision: 1, view: { kind: 'built' }, devices: [core] })
    const { markPort } = useCabling()
    await markPort({ device_id: 'core', port: '3' }, { broken: true })
    expect(sent()).toEqual([
      { port: '9', name: 'uplink' },
      { port: '3', note: 'bent', broken: true },
    ])
  })

  test('is sent as nothing where nothing is left of it, and the server forgets it', async () => {
    lab.value = stateOf({ revision: 1, view: { kind: 'built' }, devices: [{ ...sw('core'), port_marks: [{ port: '3', note: 'bent' }] }] })
    const { markPort } = useCabling()
    await markPort({ device_id: 'core', port: '3' }, { note: '' })
    expect(sent()).toEqual([{ port: '3', note: '' }])
    await markPort({ device_id: 'nobody', port: '3' }, { note: 'x' })
    expect(asked).toHaveLength(1)
  })
})

describe('leading a cable', () => {
  test('a port is only picked while no cable is led', async () => {
    const work = useWork()
    await useCabling().pickJack('core', jack('2'))
    expect(work.port).toEqual({ device_id: 'core', port: '2' })
    expect(asked).toEqual([])
  })

  test('from a free port makes a new one, of the kind that fits', async () => {
    const work = useWork()
    work.port = { device_id: 'core', port: '2' }
    work.leading = true
    await useCabling().pickJack('panel', jack('2'), { device_id: 'panel', port: '2', cable_kind: 'cat6' })
    expect(asked).toHaveLength(1)
    expect(asked[0]?.body).toMatchObject({
      changes: [
        {
          put: {
            kind: 'cable',
            a: { device_id: 'core', port: '2' },
            b: { device_id: 'panel', port: '2' },
            cable_kind: 'cat6',
            state: 'in_use',
          },
        },
      ],
    })
    expect(work.leading).toBe(false)
  })

  test('from a port that has one moves its other end, whichever that is', async () => {
    const work = useWork()
    work.port = { device_id: 'panel', port: '1' }
    work.leading = true
    await useCabling().pickJack('gate', jack('4'), { device_id: 'gate', port: '4' })
    expect(asked[0]?.body).toMatchObject({
      changes: [{ put: { id: 'c', a: { device_id: 'gate', port: '4' }, b: { device_id: 'panel', port: '1' } } }],
    })
  })

  test('where it does not go, nothing is sent, and the reason is said', async () => {
    const work = useWork()
    work.port = { device_id: 'core', port: '2' }
    work.leading = true
    await useCabling().pickJack('panel', jack('1'), { device_id: 'panel', port: '1', why: 'it is broken' })
    expect(asked).toEqual([])
    expect(work.leading).toBe(true)
    expect(notice.text).toBe('It does not go there: it is broken.')
  })

  test('where another one is, the two may change places', async () => {
    const work = useWork()
    work.port = { device_id: 'core', port: '1' }
    work.leading = true
    await settle()
    const { pickJack, swapLed } = useCabling()
    await pickJack('gate', jack('4', { cable_id: 'x' }), { device_id: 'gate', port: '4', why: 'x is in it' })
    expect(work.taken).toEqual({ end: { device_id: 'gate', port: '4' }, why: 'x is in it' })
    await swapLed()
    expect(asked[0]).toMatchObject({
      path: '/api/v1/swaps',
      body: { a: { device_id: 'panel', port: '1' }, b: { device_id: 'gate', port: '4' } },
    })
    await settle()
    expect(work.leading).toBe(false)
    expect(work.taken).toBeUndefined()
  })

  test('is over when its own port is picked again', async () => {
    const work = useWork()
    work.port = { device_id: 'core', port: '2' }
    work.leading = true
    await useCabling().pickJack('core', jack('2'))
    expect(work.leading).toBe(false)
    expect(asked).toEqual([])
  })

  test('goes on where the server refuses it', async () => {
    const work = useWork()
    work.port = { device_id: 'core', port: '2' }
    work.leading = true
    answers = [{ status: 422, body: { title: 'no', detail: 'panel/2 has something in it already.', status: 422 } }]
    await useCabling().pickJack('panel', jack('2'), { device_id: 'panel', port: '2' })
    expect(work.leading).toBe(true)
    expect(notice.text).toContain('panel/2 has something in it already')
  })

  test('asks once which ports it fits, and forgets when it is over', async () => {
    const work = useWork()
    const may = scope.run(() => usePartners(() => ['core', 'panel']))
    await settle()
    expect(asked).toEqual([])
    answers = [
      {
        status: 200,
        body: {
          partners: [
            { device_id: 'panel', port: '2' },
            { device_id: 'core', port: '3', why: 'it is broken' },
          ],
        },
      },
    ]
    work.port = { device_id: 'core', port: '2' }
    work.leading = true
    await settle()
    expect(asked.map((a) => a.path)).toEqual(['/api/v1/partners?device_id=core&port=2&among=core&among=panel'])
    expect(may?.value?.get('core/3')?.why).toBe('it is broken')
    expect(may?.value?.get('panel/2')?.why).toBeUndefined()
    work.leading = false
    await settle()
    expect(may?.value).toBeUndefined()
  })
})
