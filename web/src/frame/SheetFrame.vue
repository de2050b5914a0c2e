<script setup lang="ts">
// The frame of a sheet: its bar with its parts, what it shows, and the title
// block.
import TitleBlock from './TitleBlock.vue'
import { partPath, useSheet } from './sheets'

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
const { sheet, part } = useSheet()
</script>

<template>
  <main class="sheet grid-paper">
    <div v-if="!bare" class="bar">
      <nav v-if="sheet?.parts.length && !whole" class="parts" :aria-label="`Parts of ${sheet.name}`">
        <template v-for="p in sheet.parts" :key="p.path">
          <router-link v-if="!without?.includes(p.path)" :to="partPath(sheet, p)" :aria-current="p === part ? 'page' : undefined">{{
            p.text
          }}</router-link>
        </template>
      </nav>
      <slot name="bar" />
    </div>
    <slot />
    <TitleBlock :sheet="title ?? sheet?.name ?? ''"><slot name="foot" /></TitleBlock>
  </main>
</template>
