<script setup lang="ts">
// The frame of a sheet: its bar with its parts, what it shows, and the title
// block.
import SheetTabs from './SheetTabs.vue'
import TitleBlock from './TitleBlock.vue'
import { useSheet } from './sheets'

defineProps<{
  /** What the title block calls it; the sheet's own name if left out. */
  title?: string
  /** Paths of parts there is nothing to show of yet. */
  without?: string[]
  /** Nothing is in the bar. */
  bare?: boolean
  /** What is picked has no parts to choose from. */
  whole?: boolean
}>()
const { sheet } = useSheet()
</script>

<template>
  <main class="sheet grid-paper">
    <div v-if="!bare" class="bar">
      <SheetTabs v-if="!whole" :without="without" />
      <slot name="bar" />
    </div>
    <slot />
    <TitleBlock :sheet="title ?? sheet?.name ?? ''"><slot name="foot" /></TitleBlock>
  </main>
</template>
