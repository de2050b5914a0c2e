<script setup lang="ts">
// Every wireless network in a table, with the access points that send it.
import { ref } from 'vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable } from '../../table/useTable'

const table = useTable('wireless_networks')
const selected = ref<string[]>([])
const grid = ref<{ go: (row: number, column: number) => void }>()
</script>

<template>
  <div class="bar tools-bar">
    <TableTools :table="table" noun="wireless networks" example="words, or vlan:30" @down="grid?.go(0, 0)" />
  </div>
  <RecordGrid ref="grid" v-model:selected="selected" :table="table" label="Wireless networks" adds />
</template>

<style scoped>
.tools-bar {
  padding-top: 0;
}
</style>
