<script setup lang="ts">
// The picked device's own face, and below it every trail at its ports.
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import JackFace from './JackFace.vue'
import TrailStrip from './TrailStrip.vue'
import { endOf, sameEnd, usePartners } from '../../work/useCabling'

const emit = defineEmits<{ says: [words: string] }>()
const work = useWork()
const room = ref<HTMLElement>()
const { width } = useElementSize(room, { width: window.innerWidth - 600, height: 400 })
const { data } = useReport(() => (work.device ? api('/api/v1/devices/{id}/trails', { id: work.device.id }) : ''))
const most = computed(() => Math.max(2, ...(data.value?.trails ?? []).map((t) => t.pieces.length)))
const faces = computed(() => (['front', 'rear'] as const).filter((f) => data.value?.jacks.some((j) => j.face === f)))

const used = computed(() => {
  const level = (data.value?.level ?? []).map((l) => `${l.used} of ${l.used + l.free + (l.broken ?? 0) + (l.reserved ?? 0)} ${l.name}`)
  return level.length ? `${level.join(', ')} in use` : ''
})
watch(used, (words) => emit('says', words), { immediate: true })

/** The trail of the port that is picked. */
const pickedTrail = computed(
  () => data.value?.jacks.find((j) => sameEnd(work.port, { device_id: work.device?.id ?? '', port: j.port, rear: j.rear }))?.trail,
)
const nameOf = (t: Schemas['Trail']) =>
  data.value?.jacks.find((j) => j.trail && t.pieces.some((p) => p.cable_id === j.trail))?.trail ?? t.pieces[0]?.cable_id ?? ''

const may = usePartners(() => (work.device ? [work.device.id] : []))

function pick(t: Schemas['Trail']) {
  const s = t.stops[0]
  if (!s || !work.device) return
  const jack = data.value?.jacks.find((j) => j.trail === nameOf(t) && j.cable_id)
  work.leading = false
  work.port = endOf(work.device.id, jack ?? s)
}
</script>

<template>
  <div ref="room" class="trails">
    <template v-if="work.device && data">
      <JackFace v-for="f in faces" :key="f" :device="work.device" :jacks="data.jacks" :face="f" :partners="may" />
      <p v-if="!data.jacks.length" class="soft">
        Its ports are not documented. Add them on its card, such as 24 ports rj45 1G, or connect a port with a line:
        {{ work.device.name ?? 'it' }}/1 - PP1/1.
      </p>
      <div class="strips" role="group" aria-label="Trails">
        <TrailStrip
          v-for="t in data.trails"
          :key="t.pieces.map((p) => p.cable_id).join()"
          :trail="t"
          :own="work.device.id"
          :width="Math.max(320, width - 2)"
          :most="most"
          :picked="!!pickedTrail && nameOf(t) === pickedTrail"
          :lit="!!work.lit && nameOf(t) === work.lit"
          @pick="pick(t)"
          @lit="work.lit = $event ? nameOf(t) : ''" />
      </div>
      <p v-if="data.jacks.length && !data.trails.length" class="soft">
        Nothing is plugged into it yet. Pick a port above, or type a line such as {{ work.device.name ?? 'it' }}/{{ data.jacks[0]?.port }} -
        PP1/3 0.25m yellow cat6.
      </p>
    </template>
    <p v-else-if="!work.device" class="soft">Pick a device on the staff to see where its ports lead.</p>
  </div>
</template>

<style scoped>
.trails {
  flex: 1;
  min-height: 0;
  margin: 0 18px;
  padding-bottom: 12px;
  overflow-y: auto;
}
.trails > .face + .face {
  margin-top: 4px;
}
.strips {
  margin-top: 14px;
  overflow-x: auto;
}
@media (max-width: 700px) {
  .trails {
    margin: 0 10px;
  }
}
</style>
