<script setup lang="ts">
// How a battery falls while things stop one after the other, beside how it would fall if
// nothing did.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { clockWords } from '../../work/clockWords'

const props = defineProps<{ ups: Schemas['Shutdown']; width: number }>()
type Mark = Schemas['BatteryMark']

const height = 190
const left = 40
const right = 12
const top = 10
const foot = 24

/** The last moment that is of interest: the end of the battery, and of the target. */
const ends = (marks: Mark[]) => marks.at(-1)?.s ?? 0
const until = computed(() => Math.max(60, ends(props.ups.curve), ends(props.ups.curve_without), props.ups.to_hold_s ?? 0) * 1.04)
const x = (s: number) => left + (s / until.value) * (props.width - left - right)
const y = (percent: number) => top + (1 - percent / 100) * (height - top - foot)
const path = (marks: Mark[]) => marks.map((m, i) => `${i ? 'L' : 'M'}${x(m.s).toFixed(1)} ${y(m.percent).toFixed(1)}`).join('')
/** Steps of 1, 2 or 5 minutes and tens of those, about six of them. */
const ticks = computed(() => {
  const minutes = until.value / 60
  const step = [1, 2, 5, 10, 20, 30, 60, 120, 240, 480, 1440].find((n) => minutes / n <= 8) ?? 2880
  return Array.from({ length: Math.floor(minutes / step) + 1 }, (_, i) => i * step)
})
/** What goes at the same moment is named together, and names keep clear of each other. */
const marks = computed(() => {
  const list: { s: number; percent: number; names: string[]; lost: boolean }[] = []
  for (const h of props.ups.held) {
    const s = h.at_s ?? (h.with ? undefined : h.lost_at_s)
    if (s === undefined) continue
    const percent = percentAt(s)
    const same = list.find((m) => Math.abs(m.s - s) < 1 && m.lost === !!h.lost)
    if (same) same.names.push(h.device)
    else list.push({ s, percent, names: [h.device], lost: !!h.lost })
  }
  let low = -Infinity
  return list.map((m) => {
    const at = Math.max(y(m.percent) - 6, low + 14)
    low = at
    return { ...m, at: Math.min(at, height - foot - 4), flip: x(m.s) > props.width * 0.72 }
  })
})
function percentAt(s: number): number {
  const { curve } = props.ups
  const i = curve.findIndex((m) => m.s >= s)
  const b = curve[i]
  if (!b) return curve.at(-1)?.percent ?? 0
  const a = curve[i - 1] ?? b
  return b.s === a.s ? b.percent : a.percent + ((b.percent - a.percent) * (s - a.s)) / (b.s - a.s)
}
const names = (list: string[]) => (list.length > 2 ? `${list.slice(0, 2).join(', ')} and ${list.length - 2} more` : list.join(', '))
</script>

<template>
  <svg :width="width" :height="height" role="img" :aria-label="`How the battery of ${ups.name} falls`" class="curve">
    <rect :x="left" :y="top" :width="width - left - right" :height="height - top - foot" class="sheet" />
    <g v-for="p in [0, 50, 100]" :key="p">
      <line :x1="left" :x2="width - right" :y1="y(p)" :y2="y(p)" class="grid" />
      <text :x="left - 5" :y="y(p) + 4" class="scale end">{{ p }}%</text>
    </g>
    <g v-for="t in ticks" :key="t">
      <line :x1="x(t * 60)" :x2="x(t * 60)" :y1="top" :y2="height - foot" class="grid" />
      <text :x="x(t * 60)" :y="height - 7" class="scale middle">{{ t }}{{ t === ticks.at(-1) ? ' min' : '' }}</text>
    </g>
    <line v-if="ups.to_hold_s" :x1="x(ups.to_hold_s)" :x2="x(ups.to_hold_s)" :y1="top" :y2="height - foot" class="target" />
    <text v-if="ups.to_hold_s" :x="x(ups.to_hold_s) + 5" :y="top + 13" class="scale">wanted</text>
    <path :d="path(ups.curve_without)" class="without" />
    <path :d="path(ups.curve)" class="falls" />
    <g v-for="m in marks" :key="m.s + m.names.join()">
      <circle :cx="x(m.s)" :cy="y(m.percent)" r="4" :class="{ lost: m.lost }" />
      <text :x="x(m.s) + (m.flip ? -8 : 8)" :y="m.at" :class="['name', { end: m.flip, lost: m.lost }]">
        {{ names(m.names) }} {{ m.lost ? 'lost' : m.names.length > 1 ? 'go' : 'goes' }}
        <title>{{ m.names.join(', ') }} after {{ clockWords(m.s) }}</title>
      </text>
    </g>
  </svg>
</template>

<style scoped>
.curve {
  display: block;
}
.sheet {
  fill: var(--sheet);
}
.grid {
  stroke: var(--rule);
}
.target {
  stroke: var(--red);
  stroke-width: 2;
}
.without {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 3 4;
}
.falls {
  fill: none;
  stroke: var(--water);
  stroke-width: 2;
}
circle {
  fill: var(--water);
  stroke: var(--sheet);
  stroke-width: 1.5;
}
circle.lost {
  fill: var(--red);
}
.scale {
  font: 400 12px var(--figures);
  fill: var(--soft);
}
.name {
  font: 500 13px var(--names);
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
.name.lost {
  fill: var(--red);
}
.end {
  text-anchor: end;
}
.middle {
  text-anchor: middle;
}
</style>
