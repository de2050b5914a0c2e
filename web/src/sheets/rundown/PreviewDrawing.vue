<script setup lang="ts">
// The rack as the text would make it: the same drawing as on the Rack sheet,
// with nothing to take hold of.
import type { Device, Rack, Space } from '../../api/client'
import type { LabState } from '../../lab/useLab'
import RackDrawing from '../rack/RackDrawing.vue'

defineProps<{ lab: LabState; rack: Rack; held: Map<string, Device[]>; space?: Space; width: number; height: number; picked: string }>()
</script>

<template>
  <div class="still">
    <h2>
      {{ rack.name }} <small v-if="space" class="soft">{{ space.free_u }}U free, the largest piece {{ space.largest_u }}U</small>
    </h2>
    <RackDrawing
      :lab="lab"
      :rack="rack"
      :held="held"
      :space="space"
      :width="width"
      :height="height - 28"
      showing="both"
      :picked="picked"
      :also="[]"
      :ghosts="[]" />
  </div>
</template>

<style scoped>
.still {
  pointer-events: none;
}
h2 {
  margin-bottom: 6px;
}
small {
  margin-left: 10px;
  font: 400 13px var(--sentences);
}
</style>
