<script setup lang="ts">
// The names on the faces once more, over what crosses them.
import { computed } from 'vue'
import type { Face } from '../api/client'
import { useLab } from '../lab/useLab'
import { labelOf } from './label'
import type { FaceLayout } from './layout'

const props = defineProps<{ layouts: [Face, FaceLayout][]; scale: number }>()
const { lab } = useLab()
const labels = computed(() =>
  props.layouts
    .flatMap(([, on]) => [
      ...on.backs.map((p) => ({ ...p, back: true, small: false })),
      ...on.mounted.map((p) => ({ ...p, back: false, small: false })),
      ...on.small.map((p) => ({ ...p, back: false, small: true })),
    ])
    .map((n) => ({ ...n, label: labelOf(n.device, n.box, props.scale, n, lab.value?.spec_sheets) })),
)
</script>

<template>
  <g aria-hidden="true" class="names">
    <template v-for="n in labels" :key="`${n.device.id} ${n.label?.x}`">
      <text
        v-if="n.label"
        :x="n.label.x"
        :y="n.label.y"
        :text-anchor="n.label.anchor"
        :transform="n.label.turned ? `rotate(-90 ${n.label.x} ${n.label.y})` : undefined"
        :class="{ back: n.back }"
        >{{ n.label.text }}</text
      >
    </template>
  </g>
</template>

<style scoped>
.names {
  pointer-events: none;
}
text {
  font: 600 12.5px var(--names);
  fill: var(--boxink);
  stroke: var(--box);
  stroke-width: 3;
  paint-order: stroke;
  dominant-baseline: central;
}
.back {
  fill: var(--soft);
  stroke: var(--frame);
}
</style>
