<script setup lang="ts">
// The staff's graduation: a step for each half unit, ten units black, ten red,
// with the numbers of the rail.
import { computed } from 'vue'

const props = defineProps<{ units: number; unit: number; x: number; y: number; width: number; numbers?: number[] }>()

const steps = computed(() =>
  Array.from({ length: props.units }, (_, i) => {
    const fromFoot = props.units - i
    return { y: props.y + i * props.unit, red: Math.floor((fromFoot - 1) / 5) % 2 === 1, number: props.numbers?.[i] }
  }),
)
</script>

<template>
  <g aria-hidden="true">
    <rect :x="x" :y="y" :width="width" :height="units * unit" class="rod" />
    <g v-for="(s, i) in steps" :key="i">
      <path
        :d="`M${x} ${s.y + 0.5}h${width / 2}v${unit / 4}h${width / 2}v${unit / 4}h${-width / 2}v${unit / 4}h${-width / 2}z`"
        :class="s.red ? 'red' : 'ink'" />
      <text v-if="s.number" :x="x + width + 4" :y="s.y + unit / 2">{{ s.number }}</text>
    </g>
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
