<script setup lang="ts">
// What is said of a pair: a disc for all, half of one for some, a stroke for none, a
// small ring where nobody said anything; broken and red where it cannot be.
import type { Schemas } from '../../api/client'

defineProps<{ said: Schemas['ReachCell']['said']; can: boolean }>()
</script>

<template>
  <svg class="mark" :class="{ bad: !can && said !== 'not_said' }" width="22" height="22" viewBox="-11 -11 22 22" aria-hidden="true">
    <template v-if="!can && said !== 'not_said'">
      <circle r="7.5" class="ring" stroke-dasharray="2.4 2.4" />
      <path v-if="said === 'none'" d="M-4 0h8" class="ring" />
    </template>
    <circle v-else-if="said === 'all'" r="7.5" class="full" />
    <template v-else-if="said === 'some'">
      <circle r="7.5" class="ring" />
      <path d="M-7.5 0a7.5 7.5 0 0 0 15 0z" class="full" />
    </template>
    <path v-else-if="said === 'none'" d="M-5 0h10" class="stroke" />
    <circle v-else r="1.5" class="dot" />
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
.stroke {
  stroke: var(--soft);
  stroke-width: 2;
}
.dot {
  fill: var(--soft);
}
.bad .ring {
  stroke: var(--red);
}
</style>
