// Dragging a device to other units, onto a shelf, to a place or off the rack.
// What fits is asked once, when the drag begins, so that the ghost keeps up
// with the pointer.
import { onScopeDispose } from 'vue'
import type { Device, Face } from '../../api/client'
import { Refused } from '../../api/client'
import { say, useLab } from '../../lab/useLab'
import { title } from '../../lab/words'
import { useActions } from '../../work/useActions'
import { useWork, type Drag } from '../../work/work'

const threshold = 5

export function useDrag(unitAt: (x: number, y: number, d: Device) => { unit: number; face: Face } | undefined) {
  const work = useWork()
  const { lab } = useLab()
  const actions = useActions()
  let from: { x: number; y: number; device: Device } | undefined

  /** What is under the pointer: units first, then what says it takes things. */
  function over(x: number, y: number, device: Device): Drag['over'] {
    const under = document.elementFromPoint(x, y)
    const place = under?.closest<HTMLElement>('[data-drop-place]')?.dataset['dropPlace']
    if (place !== undefined) return place ? { place } : { loose: true }
    const other = under?.closest<SVGElement>('[data-device]')?.dataset['device'] ?? ''
    const shelf = lab.value?.devices.get(other)
    if (shelf && other !== device.id && !device.takes_u && (shelf.device_kind === 'shelf' || shelf.device_kind === 'drawer')) return { shelf: other }
    return unitAt(x, y, device)
  }

  function lift(device: Device, event: PointerEvent) {
    if (event.button !== 0) return
    work.pick(device.id)
    from = { x: event.clientX, y: event.clientY, device }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', drop)
    window.addEventListener('pointercancel', end)
    window.addEventListener('keydown', escape)
  }

  function move(event: PointerEvent) {
    if (!from) return
    if (!work.drag) {
      if (Math.hypot(event.clientX - from.x, event.clientY - from.y) < threshold) return
      const { device } = from
      work.drag = { device, slots: [] }
      const rack = work.rack?.id
      if (rack) void ask(device, rack)
    }
    scrollStaff(event)
    work.drag = { ...work.drag, over: over(event.clientX, event.clientY, from.device) }
  }

  /** The staff goes on where a thing is held at its end. */
  function scrollStaff(event: PointerEvent) {
    const list = document.querySelector('nav [data-scroll]')
    const box = list?.getBoundingClientRect()
    if (!list || !box || event.clientX > box.right) return
    if (event.clientY > box.bottom - 30) list.scrollTop += 16
    else if (event.clientY < box.top + 30) list.scrollTop -= 16
  }

  async function ask(device: Device, rack: string) {
    try {
      const slots = await actions.slotsFor(device, rack)
      if (work.drag?.device.id === device.id) work.drag = { ...work.drag, slots }
    } catch (e) {
      if (e instanceof Refused) say(e.message, true)
      end()
    }
  }

  async function drop() {
    const drag = work.drag
    end()
    if (!drag?.over) return
    const { device, over: to } = drag
    if ('place' in to) await actions.moveTo(device, { where: 'place', place_id: to.place })
    else if ('loose' in to) await actions.moveTo(device, undefined)
    else if ('shelf' in to) await actions.moveTo(device, { where: 'device', device_id: to.shelf })
    else {
      const slot = drag.slots.find((s) => s.unit === to.unit && s.face === to.face)
      if (device.at?.where === 'units' && device.at.unit === to.unit && device.at.face === to.face && device.at.rack_id === work.rack?.id) return
      if (slot?.fits && work.rack) await actions.toUnits(device, work.rack.id, to.unit, to.face)
      else if (slot) say(`${title(device)} stays where it was: ${slot.why}.`, true)
    }
  }

  function escape(event: KeyboardEvent) {
    if (event.key === 'Escape') end()
  }

  function end() {
    from = undefined
    work.drag = undefined
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', drop)
    window.removeEventListener('pointercancel', end)
    window.removeEventListener('keydown', escape)
  }

  onScopeDispose(end)
  return { lift }
}
