// What can be done with the thing that is picked, whichever key, button or
// drag asks for it.
import { api } from '../api/address'
import { get, type Device, type Schemas, type Slot, type Spot } from '../api/client'
import { partOf } from '../draw/scale'
import { title } from '../lab/words'
import { attempt, say, useLab } from '../lab/useLab'
import { useWork } from './work'

export function useActions() {
  const { held, within, send, put, remove, holdingOf } = useLab()
  const work = useWork()

  const change = (changes: Schemas['ChangeIn'][]) => attempt(() => send('/api/v1/changes', { changes }))

  /** Moves things together, the first to the spot; swap lets what is in its way go where it was. */
  const moveAll = (devices: Device[], to: Spot | undefined, swap = false) =>
    attempt(() => send('/api/v1/moves', { device_ids: devices.map((d) => d.id), to, swap }))

  async function slotsFor(devices: Device[], rackId: string, part: Schemas['Portion']): Promise<Slot[]> {
    return (await get(api('/api/v1/racks/{id}/slots', { id: rackId, device_id: devices.map((d) => d.id), portion: part }))).slots
  }

  /** What is picked and mounted in one rack, or nothing. */
  function mounted() {
    const d = work.device
    const rackId = d && holdingOf(d)?.rack_id
    return d && rackId && d.at?.where === 'units' ? { d, rackId, at: d.at, all: work.together } : undefined
  }

  /** Moves what is picked to the next units up or down that it fits. */
  async function step(direction: 1 | -1) {
    const is = mounted()
    if (!is) return
    const { unit = 1, face, share } = is.at
    const next = (await slotsFor(is.all, is.rackId, partOf(share)))
      .filter((s) => s.fits && s.face === face && s.share === share && (s.unit - unit) * direction > 0)
      .sort((a, b) => (a.unit - b.unit) * direction)[0]
    if (next) await moveAll(is.all, { ...is.at, unit: next.unit })
    else say(`There is no room further ${direction > 0 ? 'up' : 'down'} for ${title(is.d)}.`, true)
  }

  /** Turns what is picked from the front to the rear, or back. */
  async function turn() {
    const is = mounted()
    if (is) await moveAll(is.all, { ...is.at, face: is.at.face === 'rear' ? 'front' : 'rear' })
  }

  /** Changes places with the nearest thing above or below. */
  async function trade(direction: 1 | -1) {
    const is = mounted()
    if (!is) return
    const { unit = 1, face, share } = is.at
    const next = (await slotsFor([is.d], is.rackId, partOf(share)))
      .filter((s) => s.swap && s.face === face && s.share === share && (s.unit - unit) * direction > 0)
      .sort((a, b) => (a.unit - b.unit) * direction)[0]
    if (next) await moveAll([is.d], { ...is.at, unit: next.unit }, true)
    else say(`${title(is.d)} has nothing ${direction > 0 ? 'above' : 'below'} it to swap with.`, true)
  }

  /** Takes so many units more or less, upwards. */
  async function resize(by: number) {
    const is = mounted()
    if (!is) return
    const takes = (is.d.takes_u ?? 1) + by
    if (takes < 1) say(`${title(is.d)} takes at least one unit.`, true)
    else await change([put({ ...is.d, takes_u: takes })])
  }

  /** The whole width, a half of it, a third: the next one that fits there. */
  async function nextPart() {
    const is = mounted()
    if (!is) return
    const parts: Schemas['Portion'][] = ['whole', 'half', 'third']
    const now = parts.indexOf(partOf(is.at.share))
    for (const part of [parts[(now + 1) % 3], parts[(now + 2) % 3]] as Schemas['Portion'][]) {
      const slot = (await slotsFor([is.d], is.rackId, part)).find((s) => s.fits && s.unit === is.at.unit && s.face === is.at.face)
      if (slot) return void (await moveAll([is.d], { ...is.at, share: slot.share }))
    }
    say(`${title(is.d)} has no room to its side.`, true)
  }

  /** Makes another one of what is picked in the next free place, and picks it. */
  async function copyPicked() {
    const d = work.device
    if (!d) return
    let made = ''
    await attempt(async () => {
      const delta = await send('/api/v1/copies', { device_id: d.id })
      made = delta.devices?.[0]?.id ?? ''
      return delta
    })
    if (made) work.pick(made)
  }

  /** Removes what is picked, asking first where things stand on it. */
  async function removePicked() {
    const d = work.device
    if (!d) return
    if (work.also.length)
      return void (await change(
        work.together
          .flatMap((x) => [x, ...within(x.id)])
          .filter((x, i, all) => all.indexOf(x) === i)
          .map((x) => remove({ kind: 'device', id: x.id })),
      ))
    if ((held.value.get(d.id) ?? []).length > 0) work.dialog = 'remove'
    else await removeAll(d)
  }

  function nextInOrder(d: Device): string {
    const order = work.inOrder
    const at = order.findIndex((o) => o.id === d.id)
    const gone = new Set([d.id, ...within(d.id).map((w) => w.id)])
    return (order.slice(at).find((o) => !gone.has(o.id)) ?? order.slice(0, at).findLast((o) => !gone.has(o.id)))?.id ?? ''
  }

  async function removeAll(d: Device) {
    const next = nextInOrder(d)
    const ok = await change([d, ...within(d.id)].map((x) => remove({ kind: 'device', id: x.id })))
    work.dialog = ''
    if (ok) work.deviceId = next
  }

  /** Removes a device and leaves what stood on it unplaced. */
  async function removeAlone(d: Device) {
    const next = nextInOrder(d)
    const left = (held.value.get(d.id) ?? []).map((x) => put({ ...x, at: undefined }))
    const ok = await change([remove({ kind: 'device', id: d.id }), ...left])
    work.dialog = ''
    if (ok) work.deviceId = next
  }

  const undo = () => attempt(() => send('/api/v1/undo', {}))
  const redo = () => attempt(() => send('/api/v1/redo', {}))

  return { change, moveAll, slotsFor, step, turn, trade, resize, nextPart, copyPicked, removePicked, removeAll, removeAlone, undo, redo }
}
