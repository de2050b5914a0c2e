<script setup lang="ts">
// The Power sheet: what feeds what, what goes dark when something is lost, what goes
// over the network, what everything draws.
import { ref, watch } from 'vue'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'

const { tab } = useSheet()
const says = ref('')
watch(tab, () => (says.value = ''))
/** A word in capitals stays as it is. */
const named = (text = '') => (/^[A-Z][a-z]+( |$)/.test(text) ? text.toLowerCase() : text)
</script>

<template>
  <SheetFrame :title="`Power, ${named(tab?.text)}`">
    <template #bar>
      <p class="soft" role="status">{{ says }}</p>
    </template>
    <component :is="tab.is" v-if="tab" @says="says = $event" />
  </SheetFrame>
</template>
