<script setup lang="ts">
// The Rack sheet: the picked rack drawn front and rear, or the things at the
// picked place.
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useLab } from '../../lab/useLab'
import TitleBlock from '../../frame/TitleBlock.vue'
import { useWork, type Showing } from '../../work/work'
import FirstSteps from './FirstSteps.vue'
import LooseTray from './LooseTray.vue'
import PlaceDrawing from './PlaceDrawing.vue'
import RackDrawing from './RackDrawing.vue'
import { useDrag } from './useDrag'

const work = useWork()
const { lab, held, spaces, unplacedIds } = useLab()
const room = ref<HTMLElement>()
// Drawn at once at the size it will have on a desk, rather than after a first look.
const { width, height } = useElementSize(room, { width: window.innerWidth - 582, height: window.innerHeight - 204 })
const drawing = ref<InstanceType<typeof RackDrawing>>()
const { lift } = useDrag((x, y, d) => drawing.value?.unitAt(x, y, d))

const parts: { value: Showing; text: string }[] = [
  { value: 'both', text: 'Front and rear' },
  { value: 'front', text: 'Front' },
  { value: 'rear', text: 'Rear' },
]
const loose = computed(() => unplacedIds.value.flatMap((id) => lab.value?.devices.get(id) ?? []))
const space = computed(() => spaces.value.get(work.rack?.id ?? ''))
const free = computed(() => {
  if (!space.value) return ''
  const { free_u: units, largest_u: largest, pieces } = space.value
  if (!units) return 'No unit is free'
  return pieces.length === 1 ? `${units}U free, in one piece` : `${units}U free in ${pieces.length} pieces, the largest ${largest}U`
})
const sheet = computed(() => (work.place ? `${work.place.name}, things` : work.rack ? `${work.rack.name}, elevation` : 'Rack'))

function startLine(range: string) {
  work.line = `${range} `
  document.getElementById('quick-line')?.focus()
}
</script>

<template>
  <main class="sheet grid-paper">
    <FirstSteps v-if="lab && !lab.racks.size && !work.place" />
    <template v-else-if="lab">
      <div class="bar">
        <div v-if="work.rack" class="parts" role="group" aria-label="What is shown">
          <button v-for="p in parts" :key="p.value" :aria-pressed="work.showing === p.value" @click="work.showing = p.value">{{ p.text }}</button>
        </div>
        <p class="soft">{{ work.place ? 'Outside any rack. Dashed sizes are not known yet.' : free }}</p>
      </div>
      <div ref="room" class="room">
        <template v-if="work.rack">
          <RackDrawing v-if="width" ref="drawing" :lab="lab" :rack="work.rack" :held="held" :space="space" :width="width" :height="height" :showing="work.showing" :picked="work.deviceId" :ghosts="work.check?.plan.delta.devices ?? []" :drag="work.drag" @pick="work.pick" @lift="lift" @free="startLine" />
        </template>
        <PlaceDrawing v-else-if="work.place" :devices="held.get(work.place.id) ?? []" :width="width" :picked="work.deviceId" @lift="lift" />
      </div>
    </template>
    <TitleBlock :sheet="sheet"><LooseTray v-if="lab?.devices.size" :devices="loose" :picked="work.deviceId" @lift="lift" @pick="work.pick" /></TitleBlock>
  </main>
</template>

<style scoped>
.sheet {
  position: relative;
  display: flex;
  flex-direction: column;
  min-width: 0;
}
.bar {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 10px 18px 6px;
}
.bar p {
  font-size: 13px;
}
.parts {
  display: flex;
  border: 1px solid var(--rule);
  border-radius: 3px;
  background: var(--sheet);
}
.parts button {
  padding: 4px 11px;
  font: 500 14px var(--names);
  border-right: 1px solid var(--rule);
  white-space: nowrap;
}
.parts button:last-child {
  border-right: 0;
}
.parts button[aria-pressed='true'] {
  background: var(--ink);
  color: var(--paper);
}
.room {
  flex: 1;
  min-height: 0;
  padding: 0 18px 4px;
  overflow-y: auto;
}
</style>
