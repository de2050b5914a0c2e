<script setup lang="ts">
// The staff's graduation: a step for each half unit, ten units black, ten red,
// with the numbers of the rail.
import { computed } from 'vue'

const props = defineProps<{ units: number; unit: number; x: number; y: number; width: number; numbers?: number[] }>()

/** Numbers need 13 pixels each. */
const every = computed(() => [1, 2, 5].find((n) => n * props.unit >= 13) ?? 10)
/** One step, half a unit wide on the left and on the right by turns. */
const step = computed(() => {
  const [w, h] = [props.width / 2, props.unit / 4]
  return `h${w}v${h}h${w}v${h}h${-w}v${h}h${-w}z`
})
/** The steps of one colour: ten halves of a unit black, ten red. */
const steps = (red: boolean) =>
  Array.from({ length: props.units }, (_, i) =>
    (Math.floor((props.units - i - 1) / 5) % 2 === 1) === red ? `M${props.x} ${props.y + i * props.unit + 0.5}${step.value}` : '',
  ).join('')
const shown = computed(() =>
  (props.numbers ?? []).flatMap((number, i) => (number % every.value ? [] : [{ number, y: props.y + (i + 0.5) * props.unit }])),
)
</script>

<template>
  <g aria-hidden="true">
    <rect :x="x" :y="y" :width="width" :height="units * unit" class="rod" />
    <path :d="steps(false)" class="ink" />
    <path :d="steps(true)" class="red" />
    <text v-for="n in shown" :key="n.number" :x="x + width + 4" :y="n.y">{{ n.number }}</text>
    <rect :x="x" :y="y" :width="width" :height="units * unit" class="edge" />
  </g>
</template>

<style scoped>
.rod {
  fill: var(--sheet);
}
.edge {
  fill: none;
  stroke: var(--ink);
}
.ink {
  fill: var(--ink);
}
.red {
  fill: var(--red);
}
text {
  font: 400 12px var(--figures);
  fill: var(--soft);
  dominant-baseline: central;
}
</style>
