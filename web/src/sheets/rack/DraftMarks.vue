<script setup lang="ts">
// What comes, goes and moves, over the drawing of how it is then: ghosts,
// outlines struck out, arrows.
import { computed } from 'vue'
import type { Device } from '../../api/client'
import type { Marks } from '../../draw/marks'
import { fitText, type Box } from '../../draw/scale'
import type { LabState } from '../../lab/useLab'
import { title } from '../../lab/words'

const props = defineProps<{
  lab: LabState
  held: Map<string, Device[]>
  marks?: Marks
  ghosts: Device[]
  boxOf: (d: Device) => Box | undefined
}>()

/** What a thing is called, with what stands on it. */
const named = (d: Device) => [title(d), ...(props.held.get(d.id) ?? []).map(title)].join(' · ')
const boxed = (devices: Device[]) =>
  devices.flatMap((device) => {
    const box = props.boxOf(device)
    return box ? [{ device, box, name: fitText(named(device), box.w - 24, 6.6) }] : []
  })
const came = computed(() => boxed([...(props.marks?.came ?? [])].flatMap((id) => props.lab.devices.get(id) ?? [])))
const typed = computed(() => boxed(props.ghosts))
const went = computed(() => boxed(props.marks?.went ?? []))
const moves = computed(() =>
  (props.marks?.moved ?? []).flatMap(({ from, to }) => {
    const [a, b] = [props.boxOf(from), props.boxOf(to)]
    if (!a || !b) return []
    const y1 = a.y + a.h / 2
    const y2 = b.y + b.h / 2
    const x = Math.max(a.x + a.w, b.x + b.w) - 8
    const bow = Math.min(30, 10 + Math.abs(y2 - y1) / 4)
    return [
      {
        id: to.id,
        from: a,
        to: b,
        name: title(to),
        path: `M${a.x + a.w - 8} ${y1}C${x + bow} ${y1} ${x + bow} ${y2} ${b.x + b.w - 6} ${y2}`,
        head: `M${b.x + b.w - 7} ${y2}l9 -4.500v9z`,
      },
    ]
  }),
)
</script>

<template>
  <g class="marks">
    <g v-for="g in [...came, ...typed]" :key="g.device.id" class="ghost" data-ghost>
      <rect :x="g.box.x + 1" :y="g.box.y + 1" :width="g.box.w - 2" :height="g.box.h - 2" rx="2" />
      <text :x="g.box.x + 14" :y="g.box.y + g.box.h / 2">{{ g.name }}</text>
    </g>
    <g v-for="g in went" :key="g.device.id" class="went" data-went>
      <rect :x="g.box.x + 1" :y="g.box.y + 1" :width="g.box.w - 2" :height="g.box.h - 2" rx="2" />
      <text :x="g.box.x + 14" :y="g.box.y + g.box.h / 2">{{ g.name }}</text>
      <path :d="`M${g.box.x + 6} ${g.box.y + g.box.h / 2}h${g.box.w - 12}`" />
    </g>
    <g v-for="m in moves" :key="m.id" class="moved" :data-moved="m.id">
      <rect :x="m.from.x + 1" :y="m.from.y + 1" :width="m.from.w - 2" :height="m.from.h - 2" rx="2" class="left" />
      <rect :x="m.to.x + 0.5" :y="m.to.y + 0.5" :width="m.to.w - 1" :height="m.to.h - 1" rx="2" class="at" />
      <path :d="m.path" class="arrow" />
      <path :d="m.head" class="head" />
    </g>
  </g>
</template>

<style scoped>
.marks {
  pointer-events: none;
}
.ghost rect {
  fill: color-mix(in srgb, var(--sheet) 88%, var(--red));
  stroke: var(--red);
  stroke-width: 1.5;
  stroke-dasharray: 5 3;
}
.went rect,
.left {
  fill: none;
  stroke: var(--soft);
  stroke-width: 1.2;
  stroke-dasharray: 2 3;
}
.went path,
.arrow {
  fill: none;
  stroke: var(--red);
  stroke-width: 1.6;
}
.at {
  fill: none;
  stroke: var(--red);
  stroke-width: 1.5;
}
.head {
  fill: var(--red);
}
text {
  font: 600 13px var(--names);
  fill: var(--ink);
  dominant-baseline: central;
}
.went text {
  fill: var(--soft);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3;
}
</style>
