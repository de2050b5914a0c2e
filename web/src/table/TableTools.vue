<script setup lang="ts">
// What stands above a table: the filter, how many pass it, groups, columns, and
// the table as a file.
import { computed } from 'vue'
import { capital } from '../lab/words'
import ColumnsMenu from './ColumnsMenu.vue'
import type { Table } from './useTable'

const props = defineProps<{ table: Table; noun: string; example: string }>()
const emit = defineEmits<{ down: [] }>()
const { filter, group, columns, data, rows, wrong } = props.table
const apart = ['name', 'label', 'purpose', 'notes', 'why', 'serial', 'links', 'a', 'b']
const groups = computed(() => [
  { field: '', title: 'no groups' },
  ...columns.value.filter((c) => c.kind === 'words' && !apart.includes(c.field)),
])
const known = computed(() => {
  if (!data.value) return ''
  return `${rows.value.length === data.value.of ? '' : `${rows.value.length} of `}${data.value.of} ${props.noun}`
})
const file = computed(() => `/api/v1/files/${props.table.list}`)
</script>

<template>
  <input
    v-model="filter"
    type="search"
    class="field filter"
    :placeholder="example"
    aria-label="Filter"
    :aria-invalid="!!wrong"
    spellcheck="false"
    @keydown.down.prevent="emit('down')"
    @keydown.esc="filter = ''" />
  <p class="soft known" role="status">{{ known }}</p>
  <div class="tools">
    <slot />
    <select v-model="group" class="field" aria-label="Group by">
      <option v-for="g in groups" :key="g.field" :value="g.field">{{ g.field ? `by ${g.title}` : capital(g.title) }}</option>
    </select>
    <slot name="after" />
    <ColumnsMenu :table="table" />
    <a class="soft" :href="`${file}.csv`" download title="The whole table as CSV">CSV</a>
    <a class="soft" :href="`${file}.xlsx`" download title="The whole table as a workbook">XLSX</a>
    <slot name="files" />
  </div>
  <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  <p v-else-if="data?.unmet" class="unmet" role="status">{{ data.unmet }}</p>
</template>

<style scoped>
.known {
  white-space: nowrap;
}
.filter {
  flex: 1;
  min-width: 150px;
  max-width: 360px;
}
.filter[aria-invalid='true'] {
  border-color: var(--red);
}
select {
  max-width: 132px;
}
.tools {
  display: flex;
  gap: 4px;
  align-items: center;
  margin-left: auto;
}
.tools :deep(a) {
  padding: 0 5px;
  font-size: 13px;
}
.wrong,
.unmet {
  flex-basis: 100%;
}
.wrong {
  color: var(--red);
}
</style>
