<script setup lang="ts">
// The table of one kind of what runs, with its tools above it.
import { ref } from 'vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable, type List } from '../../table/useTable'

const props = defineProps<{ list: List; title: string; example: string; line: string; picked: string }>()
const emit = defineEmits<{ pick: [id: string] }>()
const table = useTable(props.list)
const grid = ref<{ go: (row: number, column: number) => void }>()
const selected = ref<string[]>([])
</script>

<template>
  <div class="tools">
    <TableTools :table="table" :noun="list" :example="example" @down="grid?.go(0, 0)" />
  </div>
  <RecordGrid ref="grid" v-model:selected="selected" :table="table" :label="title" :picked="picked" @pick="emit('pick', $event)" />
  <p v-if="table.data.value && !table.rows.value.length" class="none">
    <template v-if="table.data.value.of">Nothing passes “{{ table.filter.value }}”.</template>
    <template v-else
      >None documented yet. Write one, such as <code class="figure">{{ line }}</code>.</template
    >
  </p>
</template>

<style scoped>
.tools {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
  padding: 0 18px 8px;
}
.none {
  padding: 0 20px 20px;
}
</style>
