<script setup lang="ts">
// A bit of a cable in its jacket's colour; hatched where that is unknown.
defineProps<{ hex?: string }>()
</script>

<template><i class="jacket" :style="hex ? { background: hex } : undefined" /></template>

<style scoped>
.jacket {
  display: inline-block;
  flex: none;
  width: 16px;
  height: 8px;
  margin-right: 6px;
  background: repeating-linear-gradient(45deg, var(--soft) 0 2px, transparent 2px 4px);
  border: 1px solid color-mix(in srgb, var(--ink) 45%, transparent);
}
</style>
