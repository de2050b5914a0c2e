<script setup lang="ts">
// The parts of a sheet, one of which is shown; where there is no room for all, that
// one is scrolled into sight.
import { ref, watch } from 'vue'
import { usePhone } from '../work/usePhone'
import { tabPath, useSheet } from './sheets'

defineProps<{
  /** Paths of parts there is nothing to show of yet. */
  without?: string[]
}>()
const { sheet, tab } = useSheet()
const phone = usePhone()
const bar = ref<HTMLElement>()
watch([bar, tab], () => bar.value?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' }), {
  flush: 'post',
})
</script>

<template>
  <nav v-if="sheet?.tabs.length" ref="bar" class="segments" :class="{ many: sheet.tabs.length > 9 }" :aria-label="`Tabs of ${sheet.name}`">
    <template v-for="t in sheet.tabs" :key="t.path">
      <router-link v-if="!without?.includes(t.path)" :to="tabPath(sheet, t)" :aria-current="t === tab ? 'page' : undefined">{{
        (phone && t.phone) || t.text
      }}</router-link>
    </template>
  </nav>
</template>

<style scoped>
.many a {
  padding: 4px 8px;
}
</style>
