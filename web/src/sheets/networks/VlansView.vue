<script setup lang="ts">
// Every VLAN in a table; a new one is typed, or many are pasted, in the row at the
// top.
import { ref } from 'vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable } from '../../table/useTable'
import { useLab } from '../../lab/useLab'
import { useNetwork, vlanKey } from '../../work/useNetwork'
import { useWork } from '../../work/work'

const table = useTable('vlans')
table.sortOn('number')
const selected = ref<string[]>([])
const grid = ref<{ go: (row: number, column: number) => void }>()
const { lab } = useLab()
const work = useWork()
const { lit, vlan } = useNetwork()
function light(id: string) {
  const v = lab.value?.vlans.get(id)
  if (!v) return
  lit.value = vlanKey(v)
  work.deviceId = ''
}
</script>

<template>
  <div class="bar tools-bar">
    <TableTools :table="table" noun="VLANs" example="words, or number>=100" @down="grid?.go(0, 0)" />
  </div>
  <RecordGrid ref="grid" v-model:selected="selected" :table="table" label="VLANs" :picked="vlan?.id" adds @pick="light" />
</template>

<style scoped>
.tools-bar {
  padding-top: 0;
}
</style>
