// The lab as the server has it: read once, then kept in step by what each
// change answers. Everything drawn is derived from here.
import { computed, shallowReactive, shallowRef } from 'vue'
import { api, type Answer, type Body, type ParamsOf, type PathOf } from '../api/address'
import {
  get,
  getLab,
  post,
  Refused,
  view,
  type ChangeIn,
  type Comparison,
  type Delta,
  type Device,
  type Key,
  type Lab,
  type Schemas,
  type Settings,
  type Space,
} from '../api/client'
import { lists } from '../api/core.gen'
import { isGuest } from './words'

type List = (typeof lists)[keyof typeof lists]
const everyList = Object.values(lists)

/** The records of every kind, each list by id. */
type Records = { [L in List]: Map<string, NonNullable<Lab[L]>[number]> }

export interface LabState extends Records {
  revision: number
  undo: string
  redo: string
  view: Schemas['View']
  settings: Settings
  /** What each rack, device and place holds, by the id of the holder. */
  holdings: Map<string, Schemas['Holding']>
}

const lab = shallowRef<LabState>()
const spaces = shallowRef(new Map<string, Space>())
/** Ids of the things that are nowhere yet, oldest first. */
const unplacedIds = computed(() =>
  [...(lab.value?.devices.values() ?? [])]
    .filter((d) => !d.at && !isGuest(d))
    .map((d) => d.id)
    .sort(),
)

/** What the lab that is looked at differs in from the lab as built; nothing while that is what is looked at. */
const compared = shallowRef<Comparison>()

const noSettings: Settings = { id: 'lab', unit_numbering: 'bottom' }

/** The lab as an answer of the server has it. */
export function stateOf(whole: Lab): LabState {
  const base = {
    revision: 0,
    undo: '',
    redo: '',
    view: whole.view,
    settings: whole.settings ?? noSettings,
    holdings: new Map(),
  } as unknown as LabState
  for (const list of everyList) putList(base, list, new Map())
  return withDelta(base, whole)
}

/** Puts a map where it goes; the compiler cannot follow which list has which records. */
function putList(state: LabState, list: List, map: Map<string, unknown>) {
  ;(state as unknown as Record<List, Map<string, unknown>>)[list] = map
}

/** What a delta makes of a lab; the lab itself stays as it is. */
export function withDelta(base: LabState, delta: Lab | Delta): LabState {
  const next = {
    ...base,
    revision: delta.revision,
    undo: delta.undo ?? '',
    redo: delta.redo ?? '',
    settings: delta.settings ?? base.settings,
  }
  for (const list of everyList) {
    const records: { id: string }[] = delta[list] ?? []
    const gone = 'removed' in delta ? (delta.removed ?? []).filter((k) => k.kind !== 'lab' && lists[k.kind] === list) : []
    if (!records.length && !gone.length) continue
    const map = new Map<string, unknown>(base[list])
    for (const r of records) map.set(r.id, r)
    for (const k of gone) map.delete(k.id)
    putList(next, list, map)
  }
  if (delta.holdings?.length) next.holdings = new Map([...base.holdings, ...delta.holdings.map((h) => [h.holder_id, h] as const)])
  return next
}

async function readSpaces() {
  const report = await get(api('/api/v1/reports/space'))
  spaces.value = new Map(report.racks.map((s) => [s.rack_id, s]))
}

async function readCompared() {
  compared.value = view.value.startsWith('draft:') ? await get(api('/api/v1/compare', { from: 'built', to: view.value })) : undefined
}

/** Reads the lab if it is not the one that is shown. */
async function refresh() {
  const first = !lab.value
  const sameView = lab.value?.view.kind === 'built' && !view.value
  const others = () => Promise.all([readSpaces(), readCompared()])
  const [whole] = await Promise.all([getLab(sameView ? lab.value?.revision : undefined), first ? others() : undefined])
  if (!whole) return
  if (!first) await others()
  lab.value = stateOf(whole)
}

/** Looks at another lab: '' as built, a draft, or a past day. */
export async function look(at: string) {
  const before = view.value
  view.value = at
  try {
    await refresh()
  } catch (e) {
    view.value = before
    throw e
  }
  settle()
}

/** Reads the lab, and says so where it cannot be read; as built where what the address names is not there. */
export async function read() {
  try {
    await refresh()
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
    if (lab.value || !view.value) return
    view.value = ''
    await read()
  }
}

/** The spaces with those that a change made different. */
export const withSpaces = (base: Map<string, Space>, delta: Delta) =>
  new Map([...base, ...(delta.spaces ?? []).map((s) => [s.rack_id, s] as const)])

/** Changes that are under way from here; what the server tells meanwhile may be these. */
let sending = 0
/** The latest revision that the server told of. */
let told = 0

async function follow(delta: Delta) {
  if (!lab.value || delta.revision <= lab.value.revision) return
  // A draft that is gone is not looked at any more; and other people's
  // changes in between are not in this delta.
  if (delta.view.kind !== lab.value.view.kind) return look('')
  if (delta.revision > lab.value.revision + 1) return refresh()
  const compare = readCompared()
  spaces.value = withSpaces(spaces.value, delta)
  lab.value = withDelta(lab.value, delta)
  await compare
}

/** Follows what other windows do, by the server's events. */
export function followEvents() {
  const events = new EventSource('/api/v1/events')
  events.addEventListener('revision', (event) => {
    told = (JSON.parse((event as MessageEvent<string>).data) as { revision: number }).revision
    void catchUp()
  })
}

async function catchUp() {
  const known = lab.value?.revision
  if (known === undefined || sending || told <= known) return
  try {
    if (view.value) return await refresh()
    const delta = await get(api('/api/v1/changes', { since: known }))
    if (!lab.value || lab.value.revision !== known || view.value) return
    spaces.value = withSpaces(spaces.value, delta)
    lab.value = withDelta(lab.value, delta)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    if (e.problem.status === 404) await look('') // the draft that was looked at was thrown away
  }
}

/** One change after another, however fast they are asked for: each goes by what the one before has made. */
let turn: Promise<unknown> = Promise.resolve()
let waiting = 0

/** The paths that make a change. */
type ChangePath = { [P in PathOf<'post'>]: Answer<P, 'post'> extends Delta ? P : never }[PathOf<'post'>]
const ask = post as (path: ChangePath, body: object, params?: object) => Promise<Delta>

/**
 * Sends a change, or a file that makes one. It goes by the lab as it is looked at now, or by what one's own changes before it make of
 * that.
 */
function send<P extends ChangePath>(path: P, body: Body<P> | Blob, ...params: ParamsOf<P, 'post'>): Promise<Delta> {
  const seen = waiting ? undefined : lab.value?.revision
  waiting++
  const mine = turn
    .then(() => sendNow(path, body as object, params[0] as object | undefined, seen))
    .finally(() => {
      waiting--
    })
  turn = mine.catch(() => undefined)
  return mine
}

/** Makes a change; where someone else was first, catches up. */
async function sendNow(path: ChangePath, body: object, params?: object, seen?: number): Promise<Delta> {
  sending++
  try {
    const base = seen ?? lab.value?.revision ?? 0
    const delta = await (body instanceof Blob
      ? ask(path, body, { ...params, base_revision: base })
      : ask(path, { base_revision: base, ...body }, params))
    await follow(delta)
    return delta
  } catch (e) {
    if (e instanceof Refused && e.problem.status === 409) await refresh()
    throw e
  } finally {
    sending--
    void catchUp()
  }
}

const put = (device: Device): ChangeIn => ({ put: { kind: 'device', ...device } })
/** A record without an id is new; the server gives it one. */
const add = (record: object): ChangeIn => ({ put: record as NonNullable<ChangeIn['put']> })
const remove = (key: Key): ChangeIn => ({ remove: key })

/** What each holder holds, in the order of the server. */
export function heldIn(state: LabState): Map<string, Device[]> {
  const devices = (ids: string[]) => ids.flatMap((id) => state.devices.get(id) ?? [])
  return new Map([...state.holdings].map(([id, h]) => [id, devices(h.device_ids)]))
}

const held = computed(() => (lab.value ? heldIn(lab.value) : new Map<string, Device[]>()))

/** What sits in each device. */
const partsIn = computed(() => {
  const index = new Map<string, Schemas['Part'][]>()
  for (const p of lab.value?.parts.values() ?? []) {
    if (!p.device_id) continue
    const list = index.get(p.device_id)
    if (list) list.push(p)
    else index.set(p.device_id, [p])
  }
  return index
})

/** Everything a device holds, and what that holds. */
function within(id: string): Device[] {
  return (held.value.get(id) ?? []).flatMap((d) => [d, ...within(d.id)])
}

/** What a device is in, on or at, which says in which rack or at which place that is; nothing for one that is nowhere. */
const holdingOf = ({ at }: Device) => lab.value?.holdings.get(at?.device_id ?? at?.place_id ?? at?.rack_id ?? '')

export const useLab = () => ({ lab, spaces, compared, unplacedIds, held, partsIn, within, holdingOf, send, put, add, remove })

/** What was last refused or done, for the line at the foot of the sheet. */
export const notice = shallowReactive<{ text: string; bad: boolean }>({ text: '', bad: false })

export function say(text: string, bad = false) {
  notice.text = text
  notice.bad = bad
}

/** A refusal is over where something else is looked at. */
export function settle() {
  if (notice.bad) say('')
}

/** Runs something and says why it was refused. True if it was done. */
export async function attempt(what: () => Promise<Delta | undefined>): Promise<boolean> {
  try {
    const delta = await what()
    if (delta?.label) say(delta.label)
    return true
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
    return false
  }
}
