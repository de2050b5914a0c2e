// Dragging things to other units, racks and places, onto a shelf or off the
// rack. What fits in a rack is asked once, when something is first held over
// it, so that the ghost keeps up with the pointer.
import { onScopeDispose } from 'vue'
import { Refused, type Device, type Schemas } from '../../api/client'
import { partOf } from '../../draw/scale'
import { say, useLab } from '../../lab/useLab'
import { title, traitsOf } from '../../lab/words'
import { useActions } from '../../work/useActions'
import { usePhone } from '../../work/usePhone'
import { useWork, type Drag, type OverUnits } from '../../work/work'

const threshold = 5

/** Tells which units of a drawing are under a point of the screen. */
export type UnitsAt = (x: number, y: number, drag: Drag) => OverUnits | undefined

const drawings = new Set<UnitsAt>()

/** Makes a drawing take what is dragged over it. */
export function useDropTarget(unitsAt: UnitsAt) {
  drawings.add(unitsAt)
  onScopeDispose(() => drawings.delete(unitsAt))
}

export function useDrag() {
  const work = useWork()
  const { lab } = useLab()
  const actions = useActions()
  const phone = usePhone()
  let from: { x: number; y: number; device: Device } | undefined
  let last = { x: 0, y: 0 }

  /** What is under the pointer: what says it takes things first, then units. */
  function over(x: number, y: number, drag: Drag): Drag['over'] {
    const under = document.elementFromPoint(x, y)
    const rack = under?.closest<HTMLElement>('[data-drop-rack]')?.dataset['dropRack']
    if (rack && rack !== work.rack?.id) {
      // A rack that is not drawn is shown, to be dropped into.
      const held = work.deviceId
      work.pickRack(rack)
      work.deviceId = held
    }
    const place = under?.closest<HTMLElement>('[data-drop-place]')?.dataset['dropPlace']
    if (place !== undefined) return place ? { place } : { loose: true }
    const other = under?.closest<SVGElement>('[data-device]')?.dataset['device'] ?? ''
    const shelf = lab.value?.devices.get(other)
    if (shelf && !drag.with.some((d) => d.id === other || d.takes_u) && traitsOf(shelf.device_kind).holds) return { shelf: other }
    for (const unitsAt of drawings) {
      const units = unitsAt(x, y, drag)
      if (units) return units
    }
    return undefined
  }

  function lift(device: Device, event: PointerEvent) {
    if (event.button !== 0) return
    if (event.ctrlKey || event.metaKey) return work.pickAlso(device.id)
    if (event.shiftKey) return work.pickTo(device.id)
    // On a phone a finger scrolls the drawing, which cancels this; what it only touches is picked when it is let go.
    if (!phone.value) {
      // A port has its own card; pressed anywhere else, the device has.
      if (!work.leading && !(event.target as Element).closest('[data-port]')) work.port = undefined
      if (!work.together.some((d) => d.id === device.id)) work.pick(device.id)
      if (lab.value?.view.kind === 'past') return
    }
    from = { x: event.clientX, y: event.clientY, device }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', drop)
    window.addEventListener('pointercancel', end)
    window.addEventListener('keydown', key, true)
    window.addEventListener('keyup', key, true)
  }

  function touch(device: Device) {
    work.pick(device.id)
    work.cardOpen = true
  }

  function begin(device: Device): Drag {
    const others = work.together.filter((d) => d.id !== device.id)
    const together = others.length < work.together.length ? [device, ...others] : [device]
    return { device, with: together, part: partOf(device.at?.where === 'units' ? device.at.share : 'whole'), slots: new Map(), swap: false }
  }

  function move(event: PointerEvent) {
    if (!from || phone.value) return
    last = { x: event.clientX, y: event.clientY }
    if (!work.drag) {
      if (Math.hypot(last.x - from.x, last.y - from.y) < threshold) return
      work.drag = begin(from.device)
      if (work.rack) void ask(work.rack.id)
    }
    scrollStaff(event)
    update({ swap: event.altKey })
  }

  function update(change: Partial<Drag>) {
    if (!work.drag) return
    const drag = { ...work.drag, ...change }
    const to = over(last.x, last.y, drag)
    work.drag = { ...drag, over: to }
    if (to && 'unit' in to && !drag.slots.has(to.rack)) void ask(to.rack)
  }

  /** The staff goes on where a thing is held at its end. */
  function scrollStaff(event: PointerEvent) {
    const list = document.querySelector('nav [data-scroll]')
    const box = list?.getBoundingClientRect()
    if (!list || !box || event.clientX > box.right) return
    if (event.clientY > box.bottom - 30) list.scrollTop += 16
    else if (event.clientY < box.top + 30) list.scrollTop -= 16
  }

  async function ask(rack: string) {
    const asked = work.drag
    if (!asked) return
    asked.slots.set(rack, [])
    try {
      const slots = await actions.slotsFor(asked.with, rack, asked.part)
      if (work.drag?.device.id !== asked.device.id || work.drag.part !== asked.part) return
      work.drag = { ...work.drag, slots: new Map(work.drag.slots).set(rack, slots) }
    } catch (e) {
      if (!(e instanceof Refused)) throw e
      say(e.message, true)
      end()
    }
  }

  async function drop(event: PointerEvent) {
    const drag = work.drag
    const pressed = from?.device
    end()
    if (pressed && phone.value) return touch(pressed)
    if (!drag) {
      if (pressed && work.also.length && !event.ctrlKey && !event.shiftKey) work.pick(pressed.id)
      return
    }
    const to = drag.over
    if (!to) return
    const shelf = drag.device.at?.where === 'device' ? drag.device.at.device_id : undefined
    if ('place' in to) await actions.moveAll(drag.with, { where: 'place', place_id: to.place })
    else if ('loose' in to) await actions.moveAll(drag.with, undefined)
    else if ('shelf' in to) await (shelf === to.shelf || actions.moveAll(drag.with, { where: 'device', device_id: to.shelf }))
    else await dropIn(drag, to)
  }

  async function dropIn(drag: Drag, to: OverUnits) {
    const { at } = drag.device
    if (at?.where === 'units' && at.unit === to.unit && at.face === to.face && at.share === to.share && at.rack_id === to.rack) return
    const slot = drag.slots.get(to.rack)?.find((s) => s.unit === to.unit && s.face === to.face && s.share === to.share)
    if (!slot) return
    if (slot.fits || (drag.swap && slot.swap))
      await actions.moveAll(drag.with, { where: 'units', rack_id: to.rack, unit: to.unit, face: to.face, share: to.share }, !slot.fits)
    else say(`${title(drag.device)} stays where it was: ${slot.why}.`, true)
  }

  const parts: Schemas['Portion'][] = ['whole', 'half', 'third']

  function key(event: KeyboardEvent) {
    if (event.key === 'Escape') return end()
    if (event.key === 'Alt') {
      event.preventDefault()
      return update({ swap: event.type === 'keydown' })
    }
    if (event.key.toLowerCase() !== 'h' || event.type !== 'keydown' || !work.drag) return
    event.stopPropagation()
    update({ part: parts[(parts.indexOf(work.drag.part) + 1) % parts.length] ?? 'whole', slots: new Map() })
  }

  function end() {
    from = undefined
    work.drag = undefined
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', drop)
    window.removeEventListener('pointercancel', end)
    window.removeEventListener('keydown', key, true)
    window.removeEventListener('keyup', key, true)
  }

  onScopeDispose(end)
  return { lift }
}
