// The keys that work from anywhere but a field that is being typed in.
import { useEventListener } from '@vueuse/core'
import { nextTick } from 'vue'
import { useRouter } from 'vue-router'
import { sheets } from '../frame/sheets'
import { say, useLab } from '../lab/useLab'
import { useActions } from './useActions'
import { useCabling } from './useCabling'
import { useWork } from './work'

export function useKeys() {
  const work = useWork()
  const router = useRouter()
  const { lab, unplacedIds } = useLab()
  const { step, turn, removePicked, undo, redo, resize, nextPart, copyPicked, trade } = useActions()
  const { cableAt, unplug } = useCabling()

  function along(by: 1 | -1) {
    const loose = unplacedIds.value.flatMap((id) => lab.value?.devices.get(id) ?? [])
    const order = [...work.inOrder, ...loose]
    const at = order.findIndex((d) => d.id === work.deviceId)
    const next = at < 0 ? (by > 0 ? order[0] : order.at(-1)) : order[at + by]
    if (!next) return
    work.stepping = true
    work.pick(next.id)
    // Focus goes along, so that what is picked is read out.
    void nextTick(() => document.querySelector<HTMLElement>(`[data-staff="${CSS.escape(next.id)}"]`)?.focus())
  }

  function otherRack(by: 1 | -1) {
    const ids = [...(lab.value?.racks.keys() ?? [])]
    const at = ids.indexOf(work.rack?.id ?? '')
    const next = ids[(at + by + ids.length) % ids.length]
    if (next) work.pickRack(next)
  }

  function find() {
    work.query = ''
    work.dialog = 'find'
  }

  /** While its field is about to open, what is typed goes into it all the same. */
  function intoFind(event: KeyboardEvent) {
    if (event.key.length !== 1 || event.ctrlKey || event.metaKey) return
    event.preventDefault()
    work.query += event.key
    document.querySelector<HTMLInputElement>('.find input')?.focus()
  }

  function unplugPicked() {
    const cable = cableAt(work.port)
    return cable ? unplug(cable) : say('Nothing is plugged in there.')
  }

  function enterCard() {
    work.cardOpen = true
    void nextTick(() => document.querySelector<HTMLElement>('#card [data-fact] button')?.focus())
  }

  const plain: Record<string, () => unknown> = {
    ArrowUp: () => along(-1),
    ArrowDown: () => along(1),
    '[': () => otherRack(-1),
    ']': () => otherRack(1),
    Enter: enterCard,
    Delete: () => (work.port ? unplugPicked() : removePicked()),
    c: () => {
      if (work.port) work.leading = !work.leading
    },
    h: nextPart,
    '.': () => document.getElementById('quick-line')?.focus(),
    '/': find,
    '?': () => (work.dialog = 'keys'),
    Escape: () => {
      // One thing at a time: the cable that is led, the port, the device.
      if (work.leading) return void (work.leading = false)
      if (work.port) return void (work.port = undefined)
      work.deviceId = ''
      work.also = []
      work.cardOpen = false
    },
    ...Object.fromEntries(sheets.map((s) => [s.key, () => router.push(s.path)])),
  }
  const shifted: Record<string, () => unknown> = {
    ArrowUp: () => step(1),
    ArrowDown: () => step(-1),
    ArrowLeft: turn,
    ArrowRight: turn,
    '?': () => (work.dialog = 'keys'),
    '+': () => resize(1),
    _: () => resize(-1),
  }

  const typing = (t: EventTarget | null) =>
    t instanceof HTMLElement &&
    (t.isContentEditable || !!t.closest('input, textarea, select, [role=listbox], [role=menu], .v-overlay--active'))
  /** A button has its own Enter. */
  const pressable = (t: EventTarget | null) => t instanceof HTMLElement && !!t.closest('button, a')

  // Whoever types on while a box closes over what was typed means no key.
  let typed = -Infinity
  const still = 500 // ms
  useEventListener(
    window,
    'keydown',
    ({ target, key, timeStamp }: KeyboardEvent) => {
      if (typing(target)) typed = key.length === 1 ? timeStamp : ['Enter', 'Escape', 'Tab'].includes(key) ? -Infinity : typed
    },
    { capture: true },
  )

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (work.dialog === 'find' && !(event.target instanceof HTMLInputElement)) return intoFind(event)
    if (typing(event.target) || event.defaultPrevented) return
    if (event.altKey) {
      if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return
      event.preventDefault()
      void trade(event.key === 'ArrowUp' ? 1 : -1)
      return
    }
    if (event.ctrlKey || event.metaKey) {
      const key = event.key.toLowerCase()
      if (key !== 'z' && key !== 'y' && key !== 'd') return
      event.preventDefault()
      void (key === 'd' ? copyPicked() : key === 'y' || event.shiftKey ? redo() : undo())
      return
    }
    if (event.key.length === 1 && event.timeStamp - typed < still) return
    if (event.key === 'Enter' && pressable(event.target) && !(event.target as HTMLElement).closest('[data-staff]')) return
    const act = (event.shiftKey ? shifted : plain)[event.key]
    if (!act) return
    event.preventDefault()
    void act()
  })
}
