// What the person is doing: what is picked, what is being typed or dragged.
// What is on the server is not kept here.
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import type { Device, LineCheck, Schemas, Slot } from '../api/client'
import { useLab } from '../lab/useLab'

export type Showing = 'both' | Schemas['Face']

/** A device on its way to somewhere else, and what the server said of each slot. */
export interface Drag {
  device: Device
  slots: Slot[]
  over?: { unit: number; face: Schemas['Face'] } | { place: string } | { shelf: string } | { loose: true }
}

export const useWork = defineStore('work', () => {
  const { lab, held, rackOf } = useLab()
  const rackId = ref('')
  const placeId = ref('')
  const deviceId = ref('')
  const cardOpen = ref(false)
  const showing = ref<Showing>('both')
  const line = ref('')
  const check = shallowRef<LineCheck>()
  const drag = shallowRef<Drag>()
  const removing = ref(false)
  const keysOpen = ref(false)

  const rack = computed(() => (placeId.value ? undefined : (lab.value?.racks.get(rackId.value) ?? lab.value?.racks.values().next().value)))
  const place = computed(() => lab.value?.places.get(placeId.value))
  const device = computed(() => lab.value?.devices.get(deviceId.value))

  function pickRack(id: string) {
    rackId.value = id
    placeId.value = ''
    deviceId.value = ''
  }

  function pickPlace(id: string) {
    placeId.value = id
    deviceId.value = ''
  }

  /** Picks a device, and with it the rack or place that it is at. */
  function pick(id: string) {
    const d = lab.value?.devices.get(id)
    if (!d) return
    deviceId.value = id
    const inRack = rackOf(d)
    if (inRack) {
      rackId.value = inRack
      placeId.value = ''
      return
    }
    let at: Device | undefined = d
    while (at?.at?.device_id) at = lab.value?.devices.get(at.at.device_id)
    if (at?.at?.place_id) placeId.value = at.at.place_id
  }

  /** The devices of what is picked, in the order of the staff. */
  const inOrder = computed<Device[]>(() => {
    const below = (id: string): Device[] => (held.value.get(id) ?? []).flatMap((d) => [d, ...below(d.id)])
    return below(place.value?.id ?? rack.value?.id ?? '')
  })

  // What was picked may be gone after a change, or be somewhere else.
  watch(lab, (now) => {
    if (now?.devices.has(deviceId.value)) pick(deviceId.value)
    else deviceId.value = ''
    if (placeId.value && !now?.places.has(placeId.value)) placeId.value = ''
  })

  return { rackId, placeId, deviceId, cardOpen, showing, line, check, drag, removing, keysOpen, rack, place, device, inOrder, pickRack, pickPlace, pick }
})
