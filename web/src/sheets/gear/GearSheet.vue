<script setup lang="ts">
// The Gear sheet: every device in one table, every part in another, and what
// all of it cost.
import { computed, defineAsyncComponent, ref } from 'vue'
import TitleBlock from '../../frame/TitleBlock.vue'
import { capital } from '../../lab/words'
import ColumnsMenu from './ColumnsMenu.vue'
import GearTable from './GearTable.vue'
import KeptFilters from './KeptFilters.vue'
import { useTable } from './useTable'

const MoneyView = defineAsyncComponent(() => import('./MoneyView.vue'))
const SheetsView = defineAsyncComponent(() => import('./SheetsView.vue'))
const CompareDialog = defineAsyncComponent(() => import('./CompareDialog.vue'))
const PartDialog = defineAsyncComponent(() => import('../../card/PartDialog.vue'))

type View = 'devices' | 'parts' | 'money' | 'sheets'
const views: { value: View; text: string }[] = [
  { value: 'devices', text: 'Things' },
  { value: 'parts', text: 'Parts and spares' },
  { value: 'money', text: 'Money and age' },
  { value: 'sheets', text: 'Spec sheets' },
]
const shown = ref<View>('devices')
/** The views that are a table, with a filter over it. */
const tabular = computed(() => shown.value === 'devices' || shown.value === 'parts')
const tables = { devices: useTable('devices'), parts: useTable('parts') }
const table = computed(() => tables[shown.value === 'parts' ? 'parts' : 'devices'])
const filter = computed({ get: () => table.value.filter.value, set: (v) => (table.value.filter.value = v) })
const group = computed({ get: () => table.value.group.value, set: (v) => (table.value.group.value = v) })
const groups = computed(() => [{ field: '', title: 'no groups' }, ...table.value.columns.value.filter((c) => c.kind === 'words' && !['name', 'purpose', 'notes', 'why', 'serial', 'links'].includes(c.field))])
const grid = ref<{ go: (row: number, column: number) => void }>()
const selected = ref<string[]>([])
const comparing = ref(false)
const part = ref('')
const known = computed(() => {
  const { data, rows } = table.value
  if (!data.value) return ''
  return `${rows.value.length === data.value.of ? '' : `${rows.value.length} of `}${data.value.of} ${shown.value === 'parts' ? 'parts' : 'things'}`
})

function show(view: View) {
  shown.value = view
  selected.value = []
}
</script>

<template>
  <main class="sheet grid-paper">
    <div class="bar">
      <div class="parts" role="group" aria-label="What is shown">
        <button v-for="v in views" :key="v.value" :aria-pressed="shown === v.value" @click="show(v.value)">{{ v.text }}</button>
      </div>
      <template v-if="tabular">
        <input v-model="filter" type="search" class="field filter" placeholder="words, or ram>=64GB kind:server" aria-label="Filter" :aria-invalid="!!table.wrong.value" spellcheck="false" @keydown.down.prevent="grid?.go(0, 0)" @keydown.esc="filter = ''" />
        <p class="soft" role="status">{{ known }}</p>
        <div class="tools">
          <v-btn v-if="shown === 'devices' && selected.length > 1" size="small" variant="text" :disabled="selected.length > 4" @click="comparing = true">Compare {{ selected.length }}</v-btn>
          <select v-model="group" class="field" aria-label="Group by"><option v-for="g in groups" :key="g.field" :value="g.field">{{ g.field ? `by ${g.title}` : capital(g.title) }}</option></select>
          <KeptFilters v-if="shown === 'devices'" :table="table" />
          <ColumnsMenu :table="table" />
        </div>
      </template>
    </div>
    <p v-if="table.wrong.value && tabular" class="wrong" role="alert">{{ table.wrong.value }}</p>
    <MoneyView v-if="shown === 'money'" />
    <SheetsView v-else-if="shown === 'sheets'" />
    <template v-else>
      <GearTable :key="shown" ref="grid" v-model:selected="selected" :table="table" @open="shown === 'parts' && (part = $event)" />
      <p v-if="table.data.value && !table.rows.value.length" class="none">{{ table.data.value.of ? `Nothing passes “${filter}”.` : shown === 'parts' ? 'No parts are written down yet. Put them in on a device’s card, such as 4x 8TB hdd.' : 'Nothing is written down yet. Type a line above, such as 5 server "anvil".' }}</p>
    </template>
    <TitleBlock sheet="Gear" />
    <CompareDialog v-if="comparing" :ids="selected" @close="comparing = false" />
    <PartDialog v-if="part" :id="part" @close="part = ''" />
  </main>
</template>

<style scoped>
.bar p {
  white-space: nowrap;
}
.filter {
  flex: 1;
  min-width: 180px;
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
  align-items: center;
  margin-left: auto;
}
.wrong {
  padding: 0 20px 8px;
  color: var(--red);
}
.none {
  padding: 0 20px 20px;
}
</style>
