<script setup lang="ts">
// The Gear sheet: every device in one table, every part in another, and what
// all of it cost.
import { computed, defineAsyncComponent, ref, watch } from 'vue'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'
import KeptFilters from '../../table/KeptFilters.vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable } from '../../table/useTable'
import { useWork } from '../../work/work'

const MoneyView = defineAsyncComponent(() => import('./MoneyView.vue'))
const SheetsView = defineAsyncComponent(() => import('./SheetsView.vue'))
const CompareDialog = defineAsyncComponent(() => import('./CompareDialog.vue'))
const PartDialog = defineAsyncComponent(() => import('../../card/PartDialog.vue'))

const work = useWork()
const { tab: shownTab } = useSheet()
const shown = computed(() => shownTab.value?.path ?? '')
/** The views that are a table, with a filter over it. */
const tabular = computed(() => !shown.value || shown.value === 'parts')
const tables = { devices: useTable('devices'), parts: useTable('parts') }
const table = computed(() => tables[shown.value === 'parts' ? 'parts' : 'devices'])
const grid = ref<{ go: (row: number, column: number) => void }>()
const selected = ref<string[]>([])
const comparing = ref(false)
const part = ref('')
watch(shown, () => (selected.value = []))
</script>

<template>
  <SheetFrame>
    <template #bar>
      <TableTools
        v-if="tabular"
        :key="table.list"
        :table="table"
        :noun="shown || 'devices'"
        example="words, or ram>=64GB kind:server"
        @down="grid?.go(0, 0)">
        <v-btn v-if="!shown && selected.length > 1" size="small" variant="text" :disabled="selected.length > 4" @click="comparing = true"
          >Compare {{ selected.length }}</v-btn
        >
        <template #after><KeptFilters v-if="!shown" :table="table" /></template>
      </TableTools>
    </template>
    <MoneyView v-if="shown === 'money'" />
    <SheetsView v-else-if="shown === 'sheets'" />
    <template v-else>
      <RecordGrid
        :key="table.list"
        ref="grid"
        v-model:selected="selected"
        :table="table"
        :label="shown === 'parts' ? 'Parts' : 'Gear'"
        :picked="!shown ? work.deviceId : part"
        @open="shown === 'parts' && (part = $event)"
        @pick="!shown && work.pick($event)" />
      <p v-if="table.data.value && !table.rows.value.length" class="none">
        {{
          table.data.value.of
            ? `Nothing passes “${table.filter.value}”.`
            : shown === 'parts'
              ? 'No parts documented yet. Add them on a device’s card, such as 4x 8TB hdd.'
              : 'Nothing documented yet. Type a line above, such as 5 server "anvil".'
        }}
      </p>
    </template>
    <CompareDialog v-if="comparing" :ids="selected" @close="comparing = false" />
    <PartDialog v-if="part" :id="part" @close="part = ''" />
  </SheetFrame>
</template>

<style scoped>
.none {
  padding: 0 20px 20px;
}
</style>
