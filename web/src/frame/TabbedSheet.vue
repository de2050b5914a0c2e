<script setup lang="ts">
// A sheet whose tabs draw themselves, and say in its bar what they are about.
import { ref, watch } from 'vue'
import SheetFrame from './SheetFrame.vue'
import { useSheet } from './sheets'

const { sheet, tab } = useSheet()
const says = ref('')
watch(tab, () => (says.value = ''))
/** A word in capitals stays as it is. */
const named = (text = '') => (/^[A-Z][a-z]+( |$)/.test(text) ? text.toLowerCase() : text)
</script>

<template>
  <SheetFrame :title="`${sheet?.name}, ${named(tab?.text)}`">
    <template #bar>
      <p class="soft" role="status">{{ says }}</p>
    </template>
    <component :is="tab.is" v-if="tab" @says="says = $event" />
  </SheetFrame>
</template>
