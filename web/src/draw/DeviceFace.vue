<script setup lang="ts">
// One device as one sees it: the face by its spec or its kind, its name, its
// state.
import { computed } from 'vue'
import type { Device } from '../api/client'
import { useLab } from '../lab/useLab'
import { usePower } from '../work/usePower'
import { useStorage } from '../work/useStorage'
import { useWork } from '../work/work'
import { bodyBox } from './faceParts'
import { labelOf, lowest } from './label'
import { fedBy, pooled, through } from './lens'
import { fitText, unitMM, type Box } from './scale'
import FaceParts from './FaceParts.vue'

const props = defineProps<{ device: Device; box: Box; scale: number; picked?: boolean; back?: boolean; small?: boolean; short?: string }>()

const dark = new Set(['patch_panel', 'brush_panel', 'power_strip', 'pdu', 'ups'])
const dim = new Set(['drawer', 'nas', 'disk_shelf', 'switch', 'recorder', 'tape_library'])
const work = useWork()
const { lab } = useLab()
const { byId } = usePower(() => work.lens === 'feeds')
const { stored } = useStorage(() => work.lens === 'pools')
const seen = computed(() => {
  if (work.lens === 'feeds') return fedBy(props.device.id, byId.value)
  if (work.lens === 'pools') return pooled(props.device.id, stored.value?.pools ?? [])
  return lab.value && !props.back ? through(work.lens, props.device, lab.value.spec_sheets, new Date()) : undefined
})
const fill = computed(() => {
  if (seen.value) return seen.value.fill
  if (props.device.device_kind === 'blanking_panel') return 'var(--frame)'
  if (dark.has(props.device.device_kind)) return 'var(--boxdark)'
  return dim.has(props.device.device_kind) ? 'var(--boxdim)' : 'var(--box)'
})
const shelf = computed(() => props.device.device_kind === 'shelf')
const own = computed(() => bodyBox(props.device, props.box, props.scale, props.small || shelf.value))
const ear = (x: number) => `M${x} ${own.value.y + 1.5}h5v${Math.max(0, own.value.h - 3)}h-5z`
const lower = computed(() => own.value.h < props.box.h - unitMM * props.scale * 0.25)
const off = computed(() => props.device.state !== 'running')
const label = computed(() => labelOf(props.device, props.box, props.scale, props, lab.value?.spec_sheets))
const mark = computed(
  () => ({ running: '', resting: 'off', waiting: 'waits', spare: 'spare', faulty: 'faulty', leaving: 'leaving' })[props.device.state],
)
</script>

<template>
  <g class="device" :class="{ off, back, tinted: seen && !seen.dark }">
    <template v-if="shelf">
      <rect :x="own.x" :y="own.y + own.h - 5" :width="own.w" height="5" class="board-edge" />
      <path :d="`M${own.x + 0.5} ${own.y + own.h - 5}v-7M${own.x + own.w - 0.5} ${own.y + own.h - 5}v-7`" class="board-edge" />
    </template>
    <template v-else>
      <rect
        v-if="lower"
        :x="box.x + 1"
        :y="box.y + 0.75"
        :width="Math.max(0, box.w - 2)"
        :height="Math.max(0, box.h - own.h - 2)"
        class="board" />
      <rect :x="own.x" :y="own.y" :width="own.w" :height="own.h" rx="2" :fill="fill" class="body" />
      <template v-if="!small && device.at?.where === 'units'">
        <path :d="ear(own.x + 1) + ear(own.x + own.w - 6)" class="ear" />
      </template>
      <FaceParts v-if="!seen && !small" :device="device" :box="own" :scale="scale" :back="back" />
      <text
        v-if="label"
        :x="label.x"
        :y="label.y"
        :text-anchor="label.anchor"
        :transform="label.turned ? `rotate(-90 ${label.x} ${label.y})` : undefined"
        class="name"
        :class="{ blank: device.device_kind === 'blanking_panel' }"
        >{{ label.text }}</text
      >
      <text
        v-if="seen?.word && !small && own.w > 90 && own.h >= lowest"
        :x="own.x + own.w - 11"
        :y="own.y + own.h / 2"
        text-anchor="end"
        class="word"
        >{{ fitText(seen.word, own.w * 0.54) }}</text
      >
      <g v-else-if="mark && !small && !back && own.w > 150 && own.h >= 14" class="state">
        <rect
          :x="own.x + own.w - 14 - mark.length * 6.4"
          :y="own.y + own.h / 2 - 8"
          :width="mark.length * 6.4 + 6"
          height="16"
          rx="2"
          :class="device.state" />
        <text :x="own.x + own.w - 11" :y="own.y + own.h / 2" text-anchor="end">{{ mark }}</text>
      </g>
    </template>
    <rect v-if="picked" :x="box.x - 3" :y="box.y - 3" :width="box.w + 6" :height="box.h + 6" rx="3" class="picked" />
  </g>
</template>

<style scoped>
.body {
  stroke: var(--boxedge);
}
.off .body {
  stroke-dasharray: 4 3;
  stroke: var(--boxink);
}
.board-edge {
  fill: var(--boxdark);
  stroke: var(--boxedge);
}
.board {
  fill: none;
  stroke: var(--rule);
  stroke-dasharray: 2 3;
}
.ear {
  fill: var(--boxdark);
}
.name {
  font: 600 12.5px var(--names);
  fill: var(--boxink);
  dominant-baseline: central;
}
.name.blank {
  fill: var(--soft);
}
.back .body {
  fill-opacity: 0.9;
}
.state rect {
  fill: var(--boxdark);
  stroke: var(--boxink);
  stroke-width: 0.75;
}
.state rect.faulty {
  stroke: var(--red);
  stroke-width: 1.5;
}
.state text {
  font: 500 12px var(--names);
  fill: var(--boxink);
  dominant-baseline: central;
}
.word {
  font: 500 12px var(--figures);
  fill: var(--boxink);
  dominant-baseline: central;
}
.tinted .name,
.tinted .word {
  fill: var(--ink);
}
.picked {
  fill: none;
  stroke: var(--red);
  stroke-width: 2;
}
</style>
