<script setup lang="ts">
// The Networks sheet: the map, which VLANs each port carries, the VLANs and
// wireless networks there are.
import { ref, watch } from 'vue'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'

const { tab } = useSheet()
const says = ref('')
watch(tab, () => (says.value = ''))
</script>

<template>
  <SheetFrame :title="`Networks, ${(tab?.text ?? '').toLowerCase()}`">
    <template #bar>
      <p class="soft" role="status">{{ says }}</p>
    </template>
    <component :is="tab.is" v-if="tab" @says="says = $event" />
  </SheetFrame>
</template>
