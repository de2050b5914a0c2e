<script setup lang="ts">
// How a service is reached from a place: a full square behind a sign-in, an open one
// without, a question mark where nothing says, a stroke where it is not reached.
import type { Schemas } from '../../api/client'

const props = defineProps<{ cell: Pick<Schemas['ReachedCell'], 'arrives' | 'sign_in' | 'straight'>; outside?: boolean }>()
const open = () => props.cell.sign_in === 'none'
</script>

<template>
  <svg
    class="mark"
    :class="{ bad: outside && cell.arrives && cell.sign_in !== 'asked' }"
    width="20"
    height="20"
    viewBox="-10 -10 20 20"
    aria-hidden="true">
    <path v-if="!cell.arrives" d="M-4 0h8" class="no" />
    <rect v-else-if="cell.sign_in === 'asked'" x="-6" y="-6" width="12" height="12" class="full" />
    <rect v-else-if="open()" x="-6" y="-6" width="12" height="12" class="ring" />
    <template v-else>
      <rect x="-7" y="-7" width="14" height="14" class="ring" stroke-dasharray="2.5 2.5" />
      <text y="4.5" text-anchor="middle">?</text>
    </template>
  </svg>
</template>

<style scoped>
.full {
  fill: var(--water);
}
.ring {
  fill: none;
  stroke: var(--water);
  stroke-width: 1.6;
}
.no {
  stroke: var(--rule);
  stroke-width: 2;
}
text {
  font: 600 12px var(--figures, monospace);
  fill: var(--soft);
}
.bad .ring {
  stroke: var(--red);
  stroke-width: 2;
}
.bad text {
  fill: var(--red);
}
</style>
