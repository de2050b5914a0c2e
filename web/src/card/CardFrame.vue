<script setup lang="ts">
// The panel at the right that a card is in; over everything on a phone.
import { mdiClose } from '@mdi/js'
import { nextTick, ref, watch } from 'vue'
import { usePhone } from '../work/usePhone'

const props = defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const phone = usePhone()
const panel = ref<HTMLElement>()
watch(
  () => phone.value && props.open,
  async (over) => {
    await nextTick()
    if (over) panel.value?.focus()
  },
  { immediate: true },
)
</script>

<template>
  <aside
    id="card"
    ref="panel"
    class="card"
    :class="{ open }"
    aria-label="Card"
    :role="phone && open ? 'dialog' : undefined"
    :aria-modal="(phone && open) || undefined"
    tabindex="-1">
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
/* Where there is no room beside the drawing, it is over it: at the right on a tablet, everywhere on a phone. */
@media (max-width: 1056px) {
  .card {
    display: none;
    position: fixed;
    z-index: 30;
    inset: 46px 0 0 auto;
    border-left-color: var(--ink);
    box-shadow: -4px 0 14px rgb(0 0 0 / 18%);
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
@media (max-width: 700px) {
  .card {
    inset: 0;
    border: 0;
    box-shadow: none;
  }
}
</style>
