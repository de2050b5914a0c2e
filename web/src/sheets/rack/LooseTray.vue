<script setup lang="ts">
// Things that are not placed yet, waiting beside the drawing to be dragged
// into units.
import type { Device } from '../../api/client'
import { whatIs, title } from '../../lab/words'

defineProps<{ devices: Device[]; picked: string }>()
const emit = defineEmits<{ lift: [device: Device, event: PointerEvent]; pick: [id: string] }>()
</script>

<template>
  <section class="tray" data-drop-place="" aria-label="Not placed yet">
    <h2>Not placed yet</h2>
    <p v-if="!devices.length" class="soft">nothing; drag devices here to take them out</p>
    <button
      v-for="d in devices"
      :key="d.id"
      class="loose"
      :class="{ picked: d.id === picked }"
      :title="whatIs(d)"
      @pointerdown="emit('lift', d, $event)"
      @click="emit('pick', d.id)">
      <b>{{ title(d) }}</b><span v-if="d.takes_u" class="soft figure">{{ d.takes_u }}U</span>
    </button>
  </section>
</template>

<style scoped>
.tray {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 3px 8px;
  min-width: 0;
}
h2 {
  font-size: 13px;
  color: var(--soft);
}
.loose {
  display: flex;
  align-items: baseline;
  gap: 6px;
  padding: 1px 7px;
  background: var(--sheet);
  border: 1px dashed var(--soft);
  border-radius: 3px;
  cursor: grab;
  touch-action: none;
}
.loose b {
  font: 600 13px var(--names);
}
.loose span {
  font-size: 12px;
}
.loose.picked {
  border: 1px solid var(--red);
}
p {
  font-size: 13px;
}
</style>
