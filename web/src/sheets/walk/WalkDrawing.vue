<script setup lang="ts">
// The few units around the thing that is asked about, so that one finds it in
// the rack.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import type { Device, Rack } from '../../api/client'
import GraduatedScale from '../../draw/GraduatedScale.vue'
import RackFace from '../../draw/RackFace.vue'
import { faceMM, unitMM } from '../../draw/scale'
import type { LabState } from '../../lab/useLab'
import { unitNumber } from '../../lab/words'

const props = defineProps<{ lab: LabState; rack: Rack; held: Map<string, Device[]>; device: Device }>()
const box = ref<HTMLElement>()
const { width: room } = useElementSize(box, { width: Math.min(528, window.innerWidth - 32), height: 0 })
/** While it is put away, the element has no width. */
const width = computed(() => Math.max(240, room.value))

const scale = computed(() => (width.value - 60) / faceMM(props.rack))
const u = computed(() => unitMM * scale.value)
/** The thing, or what it stands on, in units. */
const on = computed(() => {
  let d: Device | undefined = props.device
  while (d?.at?.device_id) d = props.lab.devices.get(d.at.device_id)
  return d
})
const mounted = computed(() => on.value?.at?.where === 'units')
const units = computed(() => (on.value?.takes_u ?? 1) + 2)
const foot = computed(() => Math.max(1, Math.min(props.rack.height_u - units.value + 1, (on.value?.at?.unit ?? props.rack.height_u) - 1)))
const height = computed(() => Math.min(units.value, props.rack.height_u) * u.value)
const numbers = computed(() =>
  Array.from({ length: props.rack.height_u }, (_, i) => unitNumber(props.lab, props.rack, props.rack.height_u - i)),
)
const shift = computed(() => (props.rack.height_u - foot.value - units.value + 1) * u.value)
</script>

<template>
  <div v-if="mounted" ref="box" class="box" aria-hidden="true">
    <svg :width="width" :height="height" :viewBox="`0 ${shift} ${width} ${height}`">
      <GraduatedScale :units="rack.height_u" :unit="u" :x="0" :y="0" :width="16" :numbers="numbers" />
      <g class="still">
        <RackFace
          :lab="lab"
          :rack="rack"
          :face="on?.at?.face ?? 'front'"
          :held="held"
          :scale="scale"
          :x="50"
          :y="0"
          :posts="{ left: 6, right: 6, rail: 4 }"
          :picked="device.id" />
      </g>
    </svg>
  </div>
</template>

<style scoped>
.box {
  max-height: 190px;
  overflow: hidden;
}
svg {
  display: block;
}
.still {
  pointer-events: none;
}
</style>
