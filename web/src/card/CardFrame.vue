<script setup lang="ts">
// The panel at the right that a card is in; over everything on a phone.
import { mdiClose } from '@mdi/js'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <aside id="card" class="card" :class="{ open }" aria-label="Card" tabindex="-1">
    <v-btn class="close" :icon="mdiClose" size="44" variant="text" aria-label="Close the card" @click="$emit('close')" />
    <slot />
  </aside>
</template>

<style scoped>
.card {
  position: relative;
  padding: 12px 16px 20px;
  overflow-y: auto;
  background: var(--sheet);
  border-left: 1px solid var(--rule);
}
.card:focus-visible {
  outline: none;
}
.close {
  display: none;
}
@media (max-width: 700px) {
  .card {
    display: none;
    position: fixed;
    z-index: 30;
    inset: 0;
    border: 0;
  }
  .card.open {
    display: block;
  }
  .close {
    display: inline-flex;
    position: absolute;
    right: 8px;
    top: 8px;
    z-index: 1;
  }
}
</style>
