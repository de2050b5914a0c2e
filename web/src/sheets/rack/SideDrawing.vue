<script setup lang="ts">
// The rack from its side: how deep each thing is, to scale, what is behind it,
// and the room that is reserved for cables. What is not measured is dashed.
import { computed } from 'vue'
import { api } from '../../api/address'
import type { Device, Rack } from '../../api/client'
import GraduatedScale from '../../draw/GraduatedScale.vue'
import { fitText, unitMM } from '../../draw/scale'
import { title, traitsOf, unitNumber } from '../../lab/words'
import type { LabState } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'

const props = defineProps<{ lab: LabState; rack: Rack; held: Map<string, Device[]>; width: number; height: number; picked: string }>()
const emit = defineEmits<{ pick: [id: string] }>()

const deep = computed(() => props.rack.depth_mm ?? 800)
const door = computed(() => props.rack.door_mm ?? 0)
/** Handles and plugs stick out before the posts. */
const before = 60
const top = 26
const scale = computed(() =>
  Math.min(
    (props.width - 90) / (deep.value + before + Math.max(door.value, 40) + 60),
    (props.height - top - 30) / (props.rack.height_u * unitMM),
  ),
)
const u = computed(() => unitMM * scale.value)
const left = computed(() => (before + Math.max(door.value, 40)) * scale.value)
const right = computed(() => left.value + deep.value * scale.value)
const foot = computed(() => top + props.rack.height_u * u.value)

const { data: side } = useReport(() => api('/api/v1/racks/{id}/side', { id: props.rack.id }))
const seen = computed(() => new Map((side.value?.things ?? []).map((t) => [t.device_id, t])))
const things = computed(() =>
  (props.held.get(props.rack.id) ?? []).flatMap((device) => {
    const spec = seen.value.get(device.id)
    if (!spec) return []
    const front = device.at?.face !== 'rear'
    const known = spec.depth_mm !== undefined || traitsOf(device.device_kind).thin
    const w = (spec.depth_mm ?? (traitsOf(device.device_kind).thin ? 15 : deep.value * 0.45)) * scale.value
    const y = top + (props.rack.height_u - (device.at?.unit ?? 1) - (device.takes_u ?? 1) + 1) * u.value
    const h = (device.takes_u ?? 1) * u.value
    const x = front ? left.value : right.value - w
    const room = spec.room_mm * scale.value
    const over = spec.outcome === 'no'
    return { device, x, y, w, h, known, front, room, over, out: (spec.front_mm ?? 0) * scale.value, depth: spec.depth_mm }
  }),
)
const numbers = computed(() =>
  Array.from({ length: props.rack.height_u }, (_, i) => unitNumber(props.lab, props.rack, props.rack.height_u - i)),
)
function say(t: (typeof things.value)[number]): string {
  const depth = t.depth === undefined ? 'depth unknown' : `${t.depth} mm deep`
  return `${title(t.device)}, ${depth}${t.known && t.over ? ', too deep with its cables' : ''}`
}
</script>

<template>
  <svg
    :width="right + 70"
    :height="foot + 26"
    :viewBox="`0 0 ${right + 70} ${foot + 26}`"
    class="drawing"
    role="group"
    :aria-label="`${rack.name}, from the side`">
    <text :x="left" y="15" class="head">Front</text>
    <text :x="right" y="15" text-anchor="end" class="head">Rear</text>
    <rect :x="left" :y="top" :width="right - left" :height="foot - top" class="inside" />
    <path :d="`M${left} ${top}V${foot}M${right} ${top}V${foot}`" class="post" />
    <g v-if="rack.door_mm" class="door">
      <path :d="`M${left - door * scale} ${top}V${foot}`" />
      <text :x="left - door * scale - 4" :y="foot + 16" text-anchor="middle">door</text>
    </g>
    <g
      v-for="t in things"
      :key="t.device.id"
      role="img"
      :aria-label="say(t)"
      class="thing"
      :class="{ guess: !t.known, over: t.known && t.over }"
      @click="emit('pick', t.device.id)">
      <rect v-if="t.front && t.known" :x="t.x + t.w" :y="t.y + 1" :width="t.room" :height="t.h - 2" class="room" />
      <rect v-if="t.out" :x="t.x - t.out" :y="t.y + 1.5" :width="t.out" :height="t.h - 3" class="out" />
      <rect :x="t.x" :y="t.y + 0.75" :width="t.w" :height="t.h - 1.5" rx="1.5" class="body" :class="{ picked: t.device.id === picked }" />
      <text
        v-if="t.w < 110"
        :x="t.front ? t.x + t.w + t.room + 6 : t.x - 6"
        :y="t.y + t.h / 2"
        :text-anchor="t.front ? 'start' : 'end'"
        class="name beside">
        {{ title(t.device) }}{{ t.depth === undefined ? '' : ` ${t.depth}` }}
      </text>
      <text v-else :x="t.front ? t.x + 7 : t.x + t.w - 7" :y="t.y + t.h / 2" :text-anchor="t.front ? 'start' : 'end'" class="name">
        {{ fitText(title(t.device), t.w - 64) }}
      </text>
      <text
        v-if="t.w >= 110"
        :x="t.front ? t.x + t.w - 6 : t.x + 6"
        :y="t.y + t.h / 2"
        :text-anchor="t.front ? 'end' : 'start'"
        class="deep">
        {{ t.depth === undefined ? '?' : t.depth }}
      </text>
    </g>
    <GraduatedScale :units="rack.height_u" :unit="u" :x="right + 12" :y="top" :width="18" :numbers="numbers" />
    <text :x="(left + right) / 2" :y="foot + 17" text-anchor="middle" class="measure" :class="{ unknown: !rack.depth_mm }">
      {{ rack.depth_mm ? `${rack.depth_mm} mm between the posts` : '? mm between the posts, drawn as 800' }}
    </text>
  </svg>
</template>

<style scoped>
.drawing {
  display: block;
}
.head {
  font: 600 14px var(--names);
  fill: var(--ink);
}
.inside {
  fill: var(--sheet);
  stroke: var(--rule);
}
.post {
  stroke: var(--ink);
  stroke-width: 3;
}
.door path {
  stroke: var(--soft);
  stroke-width: 2;
  stroke-dasharray: 7 3;
}
.door text,
.measure {
  font: 400 12px var(--figures);
  fill: var(--soft);
}
.measure.unknown {
  fill: var(--red);
}
.thing {
  cursor: pointer;
}
.body {
  fill: var(--box);
  stroke: var(--boxedge);
}
.body.picked {
  stroke: var(--red);
  stroke-width: 2.5;
}
.guess .body {
  fill: none;
  stroke: var(--red);
  stroke-dasharray: 4 3;
}
.over .body {
  stroke: var(--red);
  stroke-width: 2;
}
.room {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1;
  stroke-dasharray: 2 2;
}
.out {
  fill: var(--boxdark);
}
.name {
  font: 600 12px var(--names);
  fill: var(--boxink);
  dominant-baseline: central;
}
.deep {
  font: 400 12px var(--figures);
  fill: var(--boxink);
  dominant-baseline: central;
}
.name.beside {
  fill: var(--ink);
}
.guess .name {
  fill: var(--ink);
}
.guess .deep {
  fill: var(--red);
}
</style>
