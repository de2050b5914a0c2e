<script setup lang="ts">
// A conduit cut through, with the cables that lie in it to scale; dashed where
// its kind is unknown.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { packed } from '../../draw/pack'

const props = defineProps<{ insideMm: number; holds: Schemas['InRun'][]; says: string }>()
/** So many are laid out; more are not told apart at this size. */
const most = 60
const wall = computed(() => props.insideMm * 0.04)
const whole = computed(() => props.insideMm / 2 + wall.value * 1.5)
const discs = computed(() => {
  const some = props.holds.slice(0, most)
  return packed(
    props.insideMm / 2,
    some.map((h) => h.wide_mm / 2),
  ).flatMap((d, i) => (d ? [{ ...d, hex: some[i]?.hex, known: !some[i]?.guessed }] : []))
})
</script>

<template>
  <svg class="conduit" width="112" height="112" :viewBox="`${-whole} ${-whole} ${2 * whole} ${2 * whole}`" role="img" :aria-label="says">
    <circle :r="insideMm / 2 + wall / 2" class="wall" :stroke-width="wall" />
    <g v-for="(d, i) in discs" :key="i">
      <circle
        :cx="d.x"
        :cy="d.y"
        :r="d.r * 0.95"
        class="cable"
        :class="{ asked: !d.known }"
        :style="d.hex && d.known ? { fill: d.hex } : undefined"
        :stroke-width="insideMm / 112" />
    </g>
  </svg>
</template>

<style scoped>
.conduit {
  flex: none;
}
.wall {
  fill: var(--paper);
  stroke: var(--ink);
}
.cable {
  fill: var(--strip);
  stroke: color-mix(in srgb, var(--ink) 55%, transparent);
}
.asked {
  fill: none;
  stroke: var(--red);
  stroke-dasharray: 1 1;
}
</style>
