<script setup lang="ts">
// One sort of what leads in and out, in a table; a new one is typed in the row at the
// top, where records of the sort have names.
import { ref } from 'vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable, type List } from '../../table/useTable'

/** Records with names are begun with one in the row at the top; the others are lines. */
const props = defineProps<{ list: List; noun: string; named: boolean }>()
const table = useTable(props.list)
const selected = ref<string[]>([])
const grid = ref<{ go: (row: number, column: number) => void }>()
</script>

<template>
  <div class="listed">
    <div class="tools-bar"><TableTools :table="table" :noun="noun" example="words" @down="grid?.go(0, 0)" /></div>
    <RecordGrid ref="grid" v-model:selected="selected" :table="table" :label="noun" :adds="named" />
  </div>
</template>

<style scoped>
.listed {
  display: flex;
  flex: 1 0 260px;
  flex-direction: column;
  margin: 0 -18px;
}
.tools-bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 0 18px 8px;
}
</style>
