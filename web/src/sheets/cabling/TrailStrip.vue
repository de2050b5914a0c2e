<script setup lang="ts">
// One trail as a strip: the port it begins at, the own device's in ink, each cable in its colour with
// its length over it and its run below, each port it goes through, where it
// ends, and what it carries.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { fitText } from '../../draw/scale'
import { isCordless, trailBad, trailLength, trailSpeed, trailWords } from '../../lab/trails'

const props = defineProps<{ trail: Schemas['Trail']; own: string; width: number; most: number; picked?: boolean; lit?: boolean }>()
const emit = defineEmits<{ pick: []; lit: [on: boolean] }>()

/** Where there is no room beside the stops, what it carries stands below them. */
const narrow = computed(() => props.width < 560)
const high = computed(() => (narrow.value ? 74 : 54))
const y = 29
/** Its own device need not be named where it begins there. */
const begins = computed(() => props.trail.stops[0]?.device_id === props.own)
const aside = computed(() => (narrow.value ? 0 : 100))
const short = computed(() => (narrow.value ? 38 : 54))
/** What of a step is the stop. */
const share = 0.56
/** A stop and the cable before it; the first stop has no cable before it. */
const step = computed(() =>
  Math.max(
    84,
    Math.min(
      226,
      (props.width - aside.value - 16 - (begins.value ? short.value : 0)) / (Math.max(1, props.most) + (begins.value ? 0 : share)),
    ),
  ),
)
const stopW = computed(() => step.value * share)
const first = computed(() => (begins.value ? short.value : stopW.value))
const pieceW = computed(() => step.value - stopW.value)
const stops = computed(() =>
  props.trail.stops.map((s, i) => ({
    ...s,
    x: i === 0 ? 8 : 8 + first.value + (i - 1) * step.value + pieceW.value,
    w: i === 0 ? first.value : stopW.value,
    own: s.device_id === props.own,
    text: i === 0 && begins.value ? s.name || s.port : `${s.title} ${s.name || s.port}`,
  })),
)
const pieces = computed(() =>
  props.trail.pieces.map((p, i) => ({
    ...p,
    x: 8 + first.value + i * step.value,
    above: p.length_m === undefined ? '?' : `${Math.round(p.length_m * 100) / 100} m`,
    below: p.run ?? p.label ?? '',
  })),
)
const open = computed(() =>
  props.trail.end === 'open' ? 8 + first.value + (props.trail.pieces.length - 1) * step.value + pieceW.value : 0,
)
const speed = computed(() => trailSpeed(props.trail))
const length = computed(() => trailLength(props.trail))
const stroke = (p: Schemas['Leg']) => p.hex ?? 'var(--soft)'
const dash = (p: Schemas['Leg']) => (isCordless(p.cable_kind) ? '2 6' : p.state === 'faulty' ? '7 4' : undefined)
</script>

<template>
  <button
    class="strip"
    :class="{ picked, lit }"
    :aria-label="trailWords(trail)"
    :aria-pressed="picked"
    @click="emit('pick')"
    @pointerenter="emit('lit', true)"
    @pointerleave="emit('lit', false)"
    @focus="emit('lit', true)"
    @blur="emit('lit', false)">
    <svg :width="width" :height="high" :viewBox="`0 0 ${width} ${high}`" aria-hidden="true">
      <g v-for="(p, i) in pieces" :key="i">
        <line
          v-if="p.hex && !isCordless(p.cable_kind)"
          :x1="p.x"
          :x2="p.x + pieceW"
          :y1="y"
          :y2="y"
          class="under"
          :class="{ thick: p.run }" />
        <line :x1="p.x" :x2="p.x + pieceW" :y1="y" :y2="y" :stroke="stroke(p)" :stroke-width="p.run ? 6 : 4" :stroke-dasharray="dash(p)" />
        <text :x="p.x + pieceW / 2" :y="y - 9" class="figure" :class="{ what: p.length_m === undefined && !isCordless(p.cable_kind) }">
          {{ p.cable_kind === 'wireless' ? 'air' : p.cable_kind === 'powerline' ? 'mains' : p.above }}
        </text>
        <text :x="p.x + pieceW / 2" :y="y + 17" class="below">{{ fitText(p.below, pieceW + 26) }}</text>
      </g>
      <g v-for="(s, i) in stops" :key="`s${i}`" :class="[s.kind, { own: s.own, broken: s.broken }]">
        <rect :x="s.x" :y="y - 14" :width="s.w" height="28" :rx="s.kind === 'joint' && i > 0 ? 14 : 3" />
        <text :x="s.x + s.w / 2" :y="y" class="stop">{{ fitText(s.text, s.w - 6) }}</text>
      </g>
      <g v-if="open" class="gone">
        <rect :x="open" :y="y - 14" :width="stopW" height="28" rx="3" />
        <text :x="open + stopW / 2" :y="y" class="stop">?</text>
      </g>
      <text v-if="narrow" :x="width - 8" :y="high - 10" class="end small" :class="{ bad: trailBad(trail) }">
        {{ [speed, length].filter(Boolean).join(', ') }}
      </text>
      <template v-else>
        <text :x="width - 12" :y="y - 3" class="end" :class="{ bad: trailBad(trail) }">{{ speed }}</text>
        <text :x="width - 12" :y="y + 14" class="end small">{{ length }}</text>
      </template>
    </svg>
  </button>
</template>

<style scoped>
.strip {
  display: block;
  border: 1px solid transparent;
  border-radius: 3px;
}
.strip:hover,
.strip.lit {
  background: var(--sheet);
}
.strip.picked {
  background: var(--sheet);
  border-color: var(--red);
}
.under {
  stroke: color-mix(in srgb, var(--ink) 45%, transparent);
  stroke-width: 6;
}
.under.thick {
  stroke-width: 8;
}
.figure,
.below {
  font: 400 12px var(--figures);
  text-anchor: middle;
  fill: var(--soft);
}
.below {
  font-family: var(--names);
}
.what {
  fill: var(--red);
}
.stop {
  font: 600 13px var(--names);
  text-anchor: middle;
  dominant-baseline: central;
  fill: var(--ink);
}
.device rect {
  fill: var(--sheet);
  stroke: var(--ink);
}
.joint rect {
  fill: var(--strip);
  stroke: var(--ink);
}
.own rect {
  fill: var(--ink);
}
.own .stop {
  fill: var(--paper);
}
.broken rect {
  stroke: var(--red);
  stroke-width: 2;
}
.gone rect {
  fill: none;
  stroke: var(--red);
  stroke-dasharray: 3 3;
}
.gone .stop {
  fill: var(--red);
}
.end {
  font: 400 13px var(--figures);
  text-anchor: end;
  fill: var(--ink);
}
.end.small {
  font-size: 12px;
  fill: var(--soft);
}
.end.bad {
  fill: var(--red);
}
</style>
