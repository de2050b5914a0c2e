// What can be done with the thing that is picked, whichever key, button or
// drag asks for it.
import { get, type Device, type Schemas, type Slot, type Spot } from '../api/client'
import { title } from '../lab/words'
import { attempt, say, useLab } from '../lab/useLab'
import { useWork } from './work'

export function useActions() {
  const { lab, held, within, send, put, remove, rackOf } = useLab()
  const work = useWork()

  const change = (changes: Schemas['ChangeIn'][]) => attempt(() => send('/api/v1/changes', { changes }))

  /** The order after the last thing at the same spot. */
  function lastOrder(at: Spot): number {
    const holder = at.device_id ?? at.place_id ?? at.rack_id ?? ''
    return Math.max(0, ...(held.value.get(holder) ?? []).filter((d) => d.at?.where === at.where).map((d) => d.at?.order ?? 0))
  }

  function moveTo(d: Device, at: Spot | undefined) {
    if (at && at.where !== 'units') at = { ...at, order: lastOrder(at) + 1 }
    const moved: Device = { ...d, at }
    if (at?.where === 'units' && !d.takes_u) moved.takes_u = 1
    return change([put(moved)])
  }

  const toUnits = (d: Device, rackId: string, unit: number, face: Schemas['Face']) =>
    moveTo(d, { where: 'units', rack_id: rackId, unit, face, share: d.at?.where === 'units' ? d.at.share : 'whole' })

  async function slotsFor(d: Device, rackId: string): Promise<Slot[]> {
    const answer = await get<Schemas['Slots']>(`/api/v1/racks/${encodeURIComponent(rackId)}/slots?device_id=${encodeURIComponent(d.id)}`)
    return answer.slots
  }

  /** Moves the picked device to the next units up or down that it fits. */
  async function step(direction: 1 | -1) {
    const d = work.device
    const rackId = d && rackOf(d)
    if (!d || !rackId || d.at?.where !== 'units') return
    const { unit = 1, face } = d.at
    const next = (await slotsFor(d, rackId))
      .filter((s) => s.fits && s.face === face && (s.unit - unit) * direction > 0)
      .sort((a, b) => (a.unit - b.unit) * direction)[0]
    if (next) await toUnits(d, rackId, next.unit, next.face)
    else say(`There is no room further ${direction > 0 ? 'up' : 'down'} for ${title(d)}.`, true)
  }

  /** Turns the picked device from the front to the rear, or back. */
  async function turn() {
    const d = work.device
    if (!d || d.at?.where !== 'units') return
    await moveTo(d, { ...d.at, face: d.at.face === 'rear' ? 'front' : 'rear' })
  }

  /** Removes the picked device, asking first where things stand on it. */
  async function removePicked() {
    const d = work.device
    if (!d) return
    if ((held.value.get(d.id) ?? []).length > 0) work.removing = true
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
    work.removing = false
    if (ok) work.deviceId = next
  }

  /** Removes a device and leaves what stood on it unplaced. */
  async function removeAlone(d: Device) {
    const next = nextInOrder(d)
    const left = (held.value.get(d.id) ?? []).map((x) => put({ ...x, at: undefined }))
    const ok = await change([remove({ kind: 'device', id: d.id }), ...left])
    work.removing = false
    if (ok) work.deviceId = next
  }

  const undo = () => (lab.value?.undo ? attempt(() => send('/api/v1/undo', {})) : undefined)
  const redo = () => (lab.value?.redo ? attempt(() => send('/api/v1/redo', {})) : undefined)

  return { change, moveTo, toUnits, slotsFor, step, turn, removePicked, removeAll, removeAlone, undo, redo }
}
