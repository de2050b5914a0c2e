// The lab as the server has it: read once, then kept in step by what each
// change answers. Everything drawn is derived from here.
import { computed, shallowReactive, shallowRef } from 'vue'
import { get, getLab, post, Refused, type ChangeIn, type Delta, type Device, type Key, type Lab, type Place, type Rack, type Schemas, type Settings, type Space, type Spot } from '../api/client'

export interface LabState {
  revision: number
  undo: string
  redo: string
  settings: Settings
  places: Map<string, Place>
  racks: Map<string, Rack>
  devices: Map<string, Device>
}

const lab = shallowRef<LabState>()
const spaces = shallowRef(new Map<string, Space>())
/** Ids of the things that are nowhere yet, oldest first. */
const unplacedIds = computed(() => [...(lab.value?.devices.values() ?? [])].filter((d) => !d.at).map((d) => d.id).sort())

const byId = <T extends { id: string }>(list: T[]) => new Map(list.map((r) => [r.id, r]))

function take(whole: Lab) {
  lab.value = {
    revision: whole.revision,
    undo: whole.undo ?? '',
    redo: whole.redo ?? '',
    settings: whole.settings,
    places: byId(whole.places),
    racks: byId(whole.racks),
    devices: byId(whole.devices),
  }
}

/** What a delta makes of a lab; the lab itself stays as it is. */
export function withDelta(base: LabState, delta: Delta): LabState {
  const places = new Map(base.places)
  const racks = new Map(base.racks)
  const devices = new Map(base.devices)
  for (const p of delta.places ?? []) places.set(p.id, p)
  for (const r of delta.racks ?? []) racks.set(r.id, r)
  for (const d of delta.devices ?? []) devices.set(d.id, d)
  for (const key of delta.removed ?? []) {
    if (key.kind === 'place') places.delete(key.id)
    if (key.kind === 'rack') racks.delete(key.id)
    if (key.kind === 'device') devices.delete(key.id)
  }
  return { revision: delta.revision, undo: delta.undo ?? '', redo: delta.redo ?? '', settings: delta.settings ?? base.settings, places, racks, devices }
}

async function readSpaces() {
  const report = await get<Schemas['SpaceReport']>('/api/v1/reports/space')
  spaces.value = new Map(report.racks.map((s) => [s.rack_id, s]))
}

/** Reads the lab if it is not the one that is shown. */
async function refresh() {
  const [whole] = await Promise.all([getLab(lab.value?.revision), lab.value ? undefined : readSpaces()])
  if (!whole) return
  const first = !lab.value
  if (!first) await readSpaces()
  take(whole)
}

/** Reads the lab, and says so where it cannot be read. */
export async function read() {
  try {
    await refresh()
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
  }
}

/** The spaces with those that a change made different. */
export const withSpaces = (base: Map<string, Space>, delta: Delta) => new Map([...base, ...(delta.spaces ?? []).map((s) => [s.rack_id, s] as const)])

async function follow(delta: Delta) {
  if (!lab.value) return
  // Somebody else's changes in between are not in this delta.
  if (delta.revision > lab.value.revision + 1) return refresh()
  spaces.value = withSpaces(spaces.value, delta)
  lab.value = withDelta(lab.value, delta)
}

/** Makes a change; on a refusal because somebody was first, catches up. */
async function send(path: string, body: object): Promise<Delta> {
  try {
    const delta = await post<Delta>(path, { base_revision: lab.value?.revision ?? 0, ...body })
    await follow(delta)
    return delta
  } catch (e) {
    if (e instanceof Refused && e.problem.status === 409) await refresh()
    throw e
  }
}

const put = (device: Device): ChangeIn => ({ put: { kind: 'device', ...device } })
const remove = (key: Key): ChangeIn => ({ remove: key })

/** The name of what holds a spot's things: a rack, a device, a place, or nowhere. */
export const holderOf = (at?: Spot): string => at?.device_id ?? at?.place_id ?? at?.rack_id ?? ''

/** Sorts what each holder holds; units from the top down, others in order. */
export function heldIndex(state: LabState): Map<string, Device[]> {
  const index = new Map<string, Device[]>()
  for (const d of state.devices.values()) {
    const holder = holderOf(d.at)
    const list = index.get(holder)
    if (list) list.push(d)
    else index.set(holder, [d])
  }
  const top = (d: Device) => (d.at?.where === 'units' ? (d.at.unit ?? 0) + (d.takes_u ?? 1) : 0)
  for (const list of index.values()) {
    list.sort((a, b) => top(b) - top(a) || (a.at?.face ?? '').localeCompare(b.at?.face ?? '') || (a.at?.share ?? '').localeCompare(b.at?.share ?? '') || (a.at?.order ?? 0) - (b.at?.order ?? 0) || (a.id < b.id ? -1 : 1))
  }
  return index
}

const held = computed(() => (lab.value ? heldIndex(lab.value) : new Map<string, Device[]>()))

/** Everything a device holds, and what that holds. */
function within(id: string): Device[] {
  return (held.value.get(id) ?? []).flatMap((d) => [d, ...within(d.id)])
}

/** The rack a device is in, on or at, however deep among shelves. */
function rackOf(device: Device): string | undefined {
  let at: Device | undefined = device
  for (let depth = 0; at?.at?.device_id && depth < 50; depth++) at = lab.value?.devices.get(at.at.device_id)
  return at?.at?.rack_id
}

export const useLab = () => ({ lab, spaces, unplacedIds, held, within, rackOf, send, put, remove })

/** What was last refused or done, for the line at the foot of the sheet. */
export const notice = shallowReactive<{ text: string; bad: boolean }>({ text: '', bad: false })

export function say(text: string, bad = false) {
  notice.text = text
  notice.bad = bad
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
