<script setup lang="ts">
// The Rack sheet: the picked rack drawn front and rear, or the things at the
// picked place.
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import type { Rack } from '../../api/client'
import { marksOf, type Marks } from '../../draw/marks'
import { lenses } from '../../draw/lens'
import { useLab } from '../../lab/useLab'
import { days, today } from '../../lab/words'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'
import { usePhone } from '../../work/usePhone'
import { useWork } from '../../work/work'
import FirstSteps from './FirstSteps.vue'
import LooseTray from './LooseTray.vue'
import PlaceDrawing from './PlaceDrawing.vue'
import RackDrawing from './RackDrawing.vue'
import RackRow from './RackRow.vue'
import RoomPanel from './RoomPanel.vue'
import SideDrawing from './SideDrawing.vue'
import { useDrag } from './useDrag'

const work = useWork()
const { lab, held, spaces, compared, unplacedIds } = useLab()
const phone = usePhone()
const room = ref<HTMLElement>()
// Drawn at once at the size it will have on a desk, rather than after a first look.
const { width, height } = useElementSize(room, {
  width: phone.value ? window.innerWidth - 20 : window.innerWidth - 582,
  height: window.innerHeight - 222,
})
const { lift } = useDrag()

const { tab } = useSheet()
const showing = computed(() => tab.value?.path ?? '')
const row = computed(() => showing.value === 'all' && !work.place)
/** Where there is room for it, the side stands beside front and rear, so wide. */
const beside = computed(() => (showing.value === '' && work.rack && width.value > 1200 ? 430 : 0))
const zoom = ref(1)
const making = ref(false)
const roomMarks = shallowRef<Marks>()
const marks = computed(() => (making.value ? roomMarks.value : marksOf(compared.value, work.rack?.id ?? '')))
const loose = computed(() => unplacedIds.value.flatMap((id) => lab.value?.devices.get(id) ?? []))
const space = computed(() => spaces.value.get(work.rack?.id ?? ''))
const free = computed(() => {
  if (!space.value) return ''
  const { free_u: units, largest_u: largest, pieces } = space.value
  if (!units) return 'No free units'
  return pieces.length === 1 ? `${units}U free, in one piece` : `${units}U free in ${pieces.length} pieces, the largest ${largest}U`
})
const says = computed(() => (work.place || showing.value === 'side' ? '' : lenses.find((l) => l.value === work.lens)?.says))
const sheet = computed(() =>
  work.place ? `${work.place.name}, devices` : row.value ? 'All racks, front' : work.rack ? `${work.rack.name}, elevation` : 'Rack',
)

function startLine(range: string, rack?: Rack) {
  if (rack) work.pickRack(rack.id)
  work.line = `${range} `
  document.getElementById('quick-line')?.focus()
}

async function save(as: 'svg' | 'png') {
  const { keep, png, svgText } = await import('../../draw/exportDrawing')
  const drawings = [...(room.value?.querySelectorAll<SVGSVGElement>('svg.drawing') ?? [])]
  const title = `${lab.value?.settings.name ?? 'Lab'} · ${sheet.value} · change ${lab.value?.revision ?? 0}, ${days(today())}`
  const text = await svgText(drawings, title)
  const name = sheet.value.toLowerCase().replaceAll(/[^\p{L}\p{N}]+/gu, '-')
  keep(`${name}.${as}`, as === 'svg' ? new Blob([text], { type: 'image/svg+xml' }) : await png(text))
}

const print = () => window.print()
</script>

<template>
  <SheetFrame
    :title="sheet"
    :whole="!work.rack"
    :bare="!lab || (!lab.racks.size && !work.place)"
    :without="(lab?.racks.size ?? 0) > 1 ? [] : ['all']">
    <template v-if="lab" #bar>
      <select v-if="work.rack && showing !== 'side'" v-model="work.lens" class="field" aria-label="Lens">
        <option v-for="l in lenses" :key="l.value" :value="l.value">{{ l.text }}</option>
      </select>
      <p class="soft">
        {{
          says ||
          (work.place
            ? 'Outside any rack. Dashed sizes are unknown.'
            : row
              ? 'Drag from one rack to the next.'
              : showing === 'side'
                ? 'Dashed brass: space kept for cables. Dashed red: depth unknown.'
                : free)
        }}
      </p>
      <div class="tools">
        <template v-if="row">
          <v-btn size="small" variant="text" aria-label="Smaller" :disabled="zoom <= 1" @click="zoom = Math.max(1, zoom / 1.25)">−</v-btn>
          <v-btn size="small" variant="text" aria-label="Larger" :disabled="zoom >= 4" @click="zoom = Math.min(4, zoom * 1.25)">+</v-btn>
        </template>
        <template v-if="work.rack">
          <v-btn v-if="!row && lab.view.kind !== 'past'" size="small" variant="text" :aria-pressed="making" @click="making = !making"
            >Make room</v-btn
          >
          <v-btn v-if="!row" size="small" variant="text" @click="work.dialog = 'fit'">Does it fit?</v-btn>
          <v-menu location="bottom end">
            <template #activator="{ props: opener }"><v-btn v-bind="opener" size="small" variant="text">Export</v-btn></template>
            <v-card class="away">
              <v-btn variant="text" @click="print">Print</v-btn>
              <v-btn variant="text" @click="save('svg')">SVG</v-btn>
              <v-btn variant="text" @click="save('png')">PNG</v-btn>
            </v-card>
          </v-menu>
        </template>
      </div>
    </template>
    <FirstSteps v-if="lab && !lab.racks.size && !work.place" />
    <template v-else-if="lab">
      <RoomPanel v-if="making && work.rack && !row" :rack="work.rack" @marks="roomMarks = $event" @close="making = false" />
      <div ref="room" class="room" :class="{ beside }" tabindex="0" role="region" :aria-label="sheet">
        <RackRow
          v-if="row"
          :lab="lab"
          :held="held"
          :spaces="spaces"
          :width="width"
          :height="height"
          :picked="work.deviceId"
          :also="work.also"
          :ghosts="work.check?.plan.delta.devices ?? []"
          :drag="work.drag"
          :zoom="zoom"
          @pick="work.pick"
          @lift="lift"
          @free="(r, range) => startLine(range, r)" />
        <template v-else-if="work.rack">
          <RackDrawing
            v-if="showing !== 'side' && width"
            :lab="lab"
            :rack="work.rack"
            :held="held"
            :space="space"
            :width="width - beside"
            :height="height"
            :showing="showing === 'front' || showing === 'rear' ? showing : 'both'"
            :picked="work.deviceId"
            :also="work.also"
            :ghosts="work.check?.plan.delta.devices ?? []"
            :marks="marks"
            :drag="work.drag"
            :near="!!showing"
            :leads="work.lens === 'plain'"
            @pick="work.pick"
            @lift="lift"
            @free="startLine($event)" />
          <SideDrawing
            v-if="showing === 'side' || beside"
            :lab="lab"
            :rack="work.rack"
            :held="held"
            :width="beside || width"
            :height="height"
            :picked="work.deviceId"
            @pick="work.pick" />
        </template>
        <PlaceDrawing v-else-if="work.place" :devices="held.get(work.place.id) ?? []" :width="width" :picked="work.deviceId" @lift="lift" />
      </div>
    </template>
    <template #foot
      ><LooseTray v-if="lab?.devices.size && !phone" :devices="loose" :picked="work.deviceId" @lift="lift" @pick="work.pick"
    /></template>
  </SheetFrame>
</template>

<style scoped>
.sheet {
  position: relative;
}
p {
  order: 1;
  width: 100%;
  min-width: 0;
  font-size: 13px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.tools {
  display: flex;
  margin-left: auto;
}
.tools .v-btn {
  min-width: 0;
  padding: 0 8px;
}
.away {
  display: grid;
}
.room {
  flex: 1;
  min-height: 0;
  padding: 0 18px 4px;
  overflow: auto;
}
@media (max-width: 700px) {
  .room {
    padding: 0 10px 4px;
  }
}
.room:focus-visible {
  outline-offset: -2px;
}
.room.beside {
  display: flex;
  gap: 12px;
}
</style>
