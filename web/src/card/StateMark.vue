<script setup lang="ts">
// A device's state: a shape and the word, never a colour alone.
import type { Schemas } from '../api/client'

defineProps<{ state: Schemas['State'] }>()
const shapes: Record<Schemas['State'], string> = {
  running: 'M6 1a5 5 0 1 0 .01 0z',
  resting: 'M2 2h3v8H2zM7 2h3v8H7z',
  waiting: 'M1.5 1h9L6 6l4.500 5h-9L6 6z',
  spare: 'M2 2h8v8H2z',
  faulty: 'M1 2.500 2.500 1 6 4.500 9.500 1 11 2.500 7.500 6 11 9.500 9.500 11 6 7.500 2.500 11 1 9.500 4.500 6z',
  leaving: 'M1 5h6V2l4.500 4L7 10V7H1z',
}
</script>

<template>
  <p class="state" :class="state">
    <svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true"><path :d="shapes[state]" /></svg>{{ state }}
  </p>
</template>

<style scoped>
.state {
  display: flex;
  align-items: center;
  gap: 7px;
  font: 500 14px var(--names);
  margin-bottom: 6px;
}
path {
  fill: var(--soft);
}
.running path {
  fill: var(--moss);
}
.faulty path {
  fill: var(--red);
}
</style>
