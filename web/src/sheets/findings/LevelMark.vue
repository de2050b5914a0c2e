<script setup lang="ts">
// How much a finding asks for: a shape and a word.
defineProps<{ level: 'act' | 'watch' | 'note'; bare?: boolean }>()
const shapes = { act: 'M6 0 12 6 6 12 0 6z', watch: 'M6 1 12 11.500H0z', note: 'M2 5h8v2H2z' }
</script>

<template>
  <span class="mark" :class="level"
    ><svg width="12" height="12" viewBox="0 0 12 12" aria-hidden="true"><path :d="shapes[level]" /></svg
    ><template v-if="!bare">{{ level }}</template></span
  >
</template>

<style scoped>
.mark {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  font: 600 14px var(--names);
}
path {
  fill: var(--soft);
}
.act path {
  fill: var(--red);
}
.watch path {
  fill: var(--brass);
}
</style>
