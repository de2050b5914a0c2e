<script setup lang="ts">
// The frame of a sheet: its bar with its parts, what it shows, and the title
// block.
import TitleBlock from './TitleBlock.vue'
import { tabPath, useSheet } from './sheets'

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
const { sheet, tab } = useSheet()
</script>

<template>
  <main class="sheet grid-paper">
    <div v-if="!bare" class="bar">
      <nav v-if="sheet?.tabs.length && !whole" class="segments" :aria-label="`Tabs of ${sheet.name}`">
        <template v-for="t in sheet.tabs" :key="t.path">
          <router-link v-if="!without?.includes(t.path)" :to="tabPath(sheet, t)" :aria-current="t === tab ? 'page' : undefined">{{
            t.text
          }}</router-link>
        </template>
      </nav>
      <slot name="bar" />
    </div>
    <slot />
    <TitleBlock :sheet="title ?? sheet?.name ?? ''"><slot name="foot" /></TitleBlock>
  </main>
</template>
