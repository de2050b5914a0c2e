<script setup lang="ts">
// What was done last, or refused, in a line that is read out too.
import { notice } from '../lab/useLab'
</script>

<template>
  <p class="notice" :class="{ bad: notice.bad }" role="status" aria-live="polite">{{ notice.text }}</p>
</template>

<style scoped>
.notice {
  font-size: 13px;
  padding-bottom: 3px;
}
.notice.bad {
  color: var(--red);
}
</style>
