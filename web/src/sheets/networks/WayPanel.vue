<script setup lang="ts">
// The way that is lit on the map: its strip, and what there is to say of it.
import { computed } from 'vue'
import { waySays, widthWords, type Way } from '../../lab/ways'
import WayStrip from './WayStrip.vue'
import { useTrail } from './useTrail'

const props = defineProps<{ way: Way }>()
const emit = defineEmits<{ close: []; pick: [id: string] }>()
const { showTrail } = useTrail()
const says = computed(() => waySays(props.way).join(' '))
</script>

<template>
  <section class="panel" aria-label="Way" aria-live="polite">
    <header>
      <h2>
        {{ way.from }} to {{ way.to }}: <span class="figure">{{ widthWords(way) }}</span>
      </h2>
      <button class="close" aria-label="Close" @click="emit('close')">×</button>
    </header>
    <WayStrip v-if="way.hops.length" :way="way" @pick="emit('pick', $event)" @cable="showTrail" />
    <p>{{ says }}</p>
  </section>
</template>

<style scoped>
.panel {
  margin: 0 18px 8px;
  padding: 6px 12px 8px;
  overflow: auto;
  max-height: 45%;
  background: var(--sheet);
  border: 1px solid var(--water);
}
header {
  display: flex;
  align-items: baseline;
  margin-bottom: 4px;
}
h2 {
  font-size: 14px;
}
.close {
  margin-left: auto;
  padding: 0 8px;
  font-size: 18px;
}
p {
  margin-top: 6px;
}
</style>
