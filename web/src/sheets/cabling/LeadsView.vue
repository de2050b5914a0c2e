<script setup lang="ts">
// Every cable in a table: each fact is edited where it stands; a new one is
// typed, or many are pasted from a spreadsheet, in the row at the top.
import { computed, ref } from 'vue'
import { useLab } from '../../lab/useLab'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable } from '../../table/useTable'
import { useCabling } from '../../work/useCabling'
import { useWork } from '../../work/work'

const { lab } = useLab()
const work = useWork()
const { cableAt, pickCable } = useCabling()
const table = useTable('cables')
const selected = ref<string[]>([])
const grid = ref<{ go: (row: number, column: number) => void }>()
const picked = computed(() => cableAt(work.port)?.id)
</script>

<template>
  <div class="bar leads-bar">
    <TableTools :table="table" noun="cables" example="words, or length>1m colour:yellow" @down="grid?.go(0, 0)">
      <template #files><a class="soft" href="/api/v1/files/wiring.dot" download title="The wiring as a graph">DOT</a></template>
    </TableTools>
  </div>
  <RecordGrid
    ref="grid"
    v-model:selected="selected"
    :table="table"
    label="Leads"
    :picked="picked"
    adds
    @pick="pickCable(lab?.cables.get($event))" />
</template>

<style scoped>
.leads-bar {
  padding-top: 0;
}
</style>
