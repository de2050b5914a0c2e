// What the person is doing: what is picked, what is being typed or dragged.
// What is on the server is not kept here.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Device, LineCheck, Schemas, Slot } from '../api/client'
import type { Lens } from '../draw/lens'
import { useLab } from '../lab/useLab'

/** A box that is open over the sheet. */
export type Dialog = 'keys' | 'notation' | 'settings' | 'files' | 'door' | 'find' | 'fit' | 'remove'

/** A device on its way to somewhere else, and what the server said of each slot. */
export interface Drag {
  device: Device
  /** Everything that moves with it, itself first. */
  with: Device[]
  /** How much of the width it is to take. */
  part: Schemas['Portion']
  /** The slots of each rack that it was over. */
  slots: Map<string, Slot[]>
  /** The thing in the way goes where this one was. */
  swap: boolean
  over?: OverUnits | { place: string } | { shelf: string } | { loose: true }
}

/** Units that a thing is held over. */
export interface OverUnits {
  rack: string
  unit: number
  face: Schemas['Face']
  share: Schemas['Share']
}

export const useWork = defineStore('work', () => {
  const { lab, within, holdingOf } = useLab()
  const rackId = ref('')
  const placeId = ref('')
  const deviceId = ref('')
  const cardOpen = ref(false)
  /** What was picked last was picked by going along the staff. */
  const stepping = ref(false)
  const lens = ref<Lens>('plain')
  const line = ref('')
  const check = shallowRef<LineCheck>()
  const drag = shallowRef<Drag>()
  const dialog = ref<Dialog | ''>('')
  /** What is looked for. */
  const query = ref('')
  /** The device that the walk begins with. */
  const walkFrom = ref('')
  /** The port that is picked on a drawing, or that a cable is being led from. */
  const port = shallowRef<Schemas['End']>()
  /** A cable is being led from that port to another one. */
  const leading = ref(false)
  /** The port that the cable was to go to, and the other cable that is in it. */
  const taken = shallowRef<{ end: Schemas['End']; why: string }>()
  watch([leading, port], () => (taken.value = undefined))
  /** The trail that is lit up on every drawing. */
  const lit = ref('')
  /** Things that are picked together with the one that the card is about. */
  const also = ref<string[]>([])

  const rack = computed(() => (placeId.value ? undefined : (lab.value?.racks.get(rackId.value) ?? lab.value?.racks.values().next().value)))
  const place = computed(() => lab.value?.places.get(placeId.value))
  const device = computed(() => lab.value?.devices.get(deviceId.value))

  function pickRack(id: string) {
    if (!leading.value) port.value = undefined
    rackId.value = id
    placeId.value = ''
    deviceId.value = ''
  }

  function pickPlace(id: string) {
    if (!leading.value) port.value = undefined
    placeId.value = id
    deviceId.value = ''
  }

  /** Picks a device, and with it the rack or place that it is at. The card is its own then, unless a cable is on its way there. */
  function pick(id: string) {
    if (!leading.value) port.value = undefined
    goTo(id)
  }

  function goTo(id: string) {
    const d = lab.value?.devices.get(id)
    if (!d) return
    deviceId.value = id
    also.value = []
    const by = holdingOf(d)
    if (!by?.rack_id && !by?.place_id) return
    if (by.rack_id) rackId.value = by.rack_id
    placeId.value = by.place_id ?? ''
  }

  /** Everything that is picked, the one that the card is about first. */
  const together = computed<Device[]>(() => [deviceId.value, ...also.value].flatMap((id) => lab.value?.devices.get(id) ?? []))

  /** Adds a thing to what is picked, or takes it off again. */
  function pickAlso(id: string) {
    if (!deviceId.value) return pick(id)
    if (id === deviceId.value) return
    also.value = also.value.includes(id) ? also.value.filter((x) => x !== id) : [...also.value, id]
  }

  /** Picks everything along the staff from the picked thing to another one. */
  function pickTo(id: string) {
    const order = inOrder.value.map((d) => d.id)
    const [a, b] = [order.indexOf(deviceId.value), order.indexOf(id)]
    if (a < 0 || b < 0) return pick(id)
    also.value = order.slice(Math.min(a, b), Math.max(a, b) + 1).filter((x) => x !== deviceId.value)
  }

  /** The devices of what is picked, in the order of the staff. */
  const inOrder = computed<Device[]>(() => within(place.value?.id ?? rack.value?.id ?? ''))

  // What was picked may be gone after a change, or be somewhere else.
  watch(lab, (now) => {
    const others = also.value
    if (now?.devices.has(deviceId.value)) goTo(deviceId.value)
    else deviceId.value = ''
    also.value = others.filter((id) => now?.devices.has(id))
    if (port.value && !now?.devices.has(port.value.device_id)) port.value = undefined
    if (placeId.value && !now?.places.has(placeId.value)) placeId.value = ''
  })

  return {
    rackId,
    placeId,
    deviceId,
    cardOpen,
    stepping,
    lens,
    line,
    check,
    drag,
    dialog,
    query,
    walkFrom,
    port,
    leading,
    taken,
    lit,
    also,
    together,
    rack,
    place,
    device,
    inOrder,
    pickRack,
    pickPlace,
    pick,
    pickAlso,
    pickTo,
  }
})
