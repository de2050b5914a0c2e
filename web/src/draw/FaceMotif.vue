<script setup lang="ts">
// The trade's sign for a kind of device, on the right half of its face: jacks,
// drive fronts, outlets, bristles, vents. It says what the thing is, never how
// many of something it has.
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import type { Box } from './scale'

const props = defineProps<{ kind: Schemas['DeviceKind']; box: Box }>()

const area = computed(() => {
  const { x, y, w, h } = props.box
  return { x: x + w * 0.5, y: y + h / 2, w: w * 0.3, h: Math.max(2, Math.min(h - 6, 34)) }
})

const motifs: Partial<Record<Schemas['DeviceKind'], string>> = {
  patch_panel: 'jacks',
  switch: 'jacks',
  router: 'few',
  firewall: 'few',
  modem: 'few',
  server: 'vents',
  mini_pc: 'few',
  nas: 'drives',
  disk_shelf: 'drives',
  recorder: 'few',
  tape_library: 'slot',
  brush_panel: 'bristles',
  drawer: 'pull',
  kvm_switch: 'slot',
  console_server: 'jacks',
  ups: 'screen',
  pdu: 'outlets',
  power_strip: 'outlets',
  fan_unit: 'fans',
}
const motif = computed(() => motifs[props.kind])
const at = (n: number, of: number) => area.value.x + ((n + 0.5) * area.value.w) / of
</script>

<template>
  <g class="motif" aria-hidden="true">
    <template v-if="motif === 'jacks'">
      <path v-for="n in 8" :key="n" :d="`M${at(n - 1, 8) - 3} ${area.y + 3.5}v-5h1.6v-2h2.8v2h1.6v5z`" />
    </template>
    <template v-else-if="motif === 'few'">
      <path v-for="n in 3" :key="n" :d="`M${at(n - 1, 6) - 3} ${area.y + 3.5}v-5h1.6v-2h2.8v2h1.6v5z`" />
    </template>
    <template v-else-if="motif === 'drives'">
      <template v-for="n in 4" :key="n">
        <rect :x="at(n - 1, 4) - area.w / 9" :y="area.y - area.h / 2" :width="area.w / 4.5" :height="area.h" rx="1" />
        <path :d="`M${at(n - 1, 4) - area.w / 9 + 3} ${area.y - area.h / 4}v${area.h / 2}`" class="light" />
      </template>
    </template>
    <template v-else-if="motif === 'vents'">
      <path v-for="n in 9" :key="n" :d="`M${at(n - 1, 9)} ${area.y - area.h / 3}v${(area.h * 2) / 3}`" class="vent" />
    </template>
    <template v-else-if="motif === 'bristles'">
      <rect :x="box.x + 14" :y="box.y + box.h / 2 - 4" :width="box.w - 28" height="8" class="slit" />
      <path :d="`M${box.x + 16} ${box.y + box.h / 2}h${box.w - 32}`" class="bristles" />
    </template>
    <rect v-else-if="motif === 'pull'" :x="area.x - area.w * 0.35" :y="area.y - 3" :width="area.w * 0.9" height="6" rx="3" class="slit" />
    <rect v-else-if="motif === 'slot'" :x="area.x" :y="area.y - 2" :width="area.w" height="4" rx="1" class="slit" />
    <template v-else-if="motif === 'screen'">
      <rect
        :x="area.x"
        :y="area.y - Math.min(area.h, 26) / 2"
        :width="area.w * 0.8"
        :height="Math.min(area.h, 26)"
        rx="1.5"
        class="screen" />
      <path :d="`M${area.x + 6} ${area.y + 4}l6 -7 6 4 8 -6`" class="trace" />
    </template>
    <template v-else-if="motif === 'outlets'">
      <circle v-for="n in 4" :key="n" :cx="at(n - 1, 5)" :cy="area.y" r="4.5" class="outlet" />
    </template>
    <template v-else-if="motif === 'fans'">
      <g v-for="n in 3" :key="n">
        <circle :cx="at(n - 1, 3)" :cy="area.y" :r="Math.min(area.h / 2, 9)" class="outlet" />
        <path :d="`M${at(n - 1, 3) - 5} ${area.y}h10M${at(n - 1, 3)} ${area.y - 5}v10`" class="vent" />
      </g>
    </template>
  </g>
</template>

<style scoped>
.motif {
  fill: var(--boxdark);
  stroke: var(--boxline);
  stroke-width: 0.8;
}
.light {
  stroke: var(--pale);
  stroke-width: 2;
}
.vent,
.bristles {
  fill: none;
  stroke: var(--boxline);
  stroke-width: 1.4;
}
.bristles {
  stroke-width: 7;
  stroke-dasharray: 1 2.2;
}
.slit {
  fill: var(--boxdark);
}
.screen {
  fill: var(--boxline);
}
.trace {
  fill: none;
  stroke: var(--boxink);
  stroke-width: 1.2;
}
.outlet {
  fill: none;
  stroke: var(--brass);
  stroke-width: 1.5;
}
</style>
