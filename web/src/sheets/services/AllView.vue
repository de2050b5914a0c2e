<script setup lang="ts">
// All there is to what runs in tables, as the gear is: VMs and containers, services, and
// what they are gathered to and made from.
import { computed, ref, watch } from 'vue'
import RecordGrid from '../../table/RecordGrid.vue'
import TableTools from '../../table/TableTools.vue'
import { useTable } from '../../table/useTable'
import { useServices } from '../../work/useServices'
import { useWork } from '../../work/work'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { picked } = useServices(() => false)
const lists = [
  {
    list: 'guests',
    text: 'VMs and containers',
    noun: 'guests',
    example: 'words, or memory>=4GB worth:household',
    line: 'on anvil: vm "choir": 8 vcpu, 24GB',
  },
  {
    list: 'services',
    text: 'Services',
    noun: 'services',
    example: 'words, or worth:household',
    line: 'service "choir library": in library, tcp 8080, https',
  },
  { list: 'stacks', text: 'Stacks', noun: 'stacks', example: 'words', line: 'stack "pictures": solver, viewer, data base' },
  { list: 'clusters', text: 'Clusters', noun: 'clusters', example: 'words', line: 'cluster "pair": anvil, thrush, shared vault' },
  { list: 'templates', text: 'Templates', noun: 'templates', example: 'words', line: 'template "small": 2 vcpu, 2GB' },
] as const
type Name = (typeof lists)[number]['list']
const shown = ref<Name>(picked.value ? 'services' : 'guests')
const made = new Map<Name, ReturnType<typeof useTable>>()
function tableOf(name: Name) {
  const table = made.get(name) ?? useTable(name)
  made.set(name, table)
  return table
}
const all = Object.fromEntries(lists.map((l) => [l.list, tableOf(l.list)])) as Record<Name, ReturnType<typeof useTable>>
const table = computed(() => all[shown.value])
const of = computed(() => lists.find((l) => l.list === shown.value) ?? lists[0])
const grid = ref<{ go: (row: number, column: number) => void }>()
const selected = ref<string[]>([])
function pick(id: string) {
  if (shown.value === 'guests') return work.pick(id)
  work.deviceId = ''
  picked.value = { kind: table.value.kind, id }
}
watch(shown, () => (selected.value = []))
watch(of, (now) => emit('says', now.text), { immediate: true })
</script>

<template>
  <div class="all">
    <div class="segments" role="group" aria-label="What is listed">
      <button v-for="l in lists" :key="l.list" :aria-pressed="shown === l.list" @click="shown = l.list">{{ l.text }}</button>
    </div>
    <div class="tools">
      <TableTools :key="shown" :table="table" :noun="of.noun" :example="of.example" @down="grid?.go(0, 0)" />
    </div>
    <RecordGrid
      :key="shown"
      ref="grid"
      v-model:selected="selected"
      :table="table"
      :label="of.text"
      :picked="shown === 'guests' ? work.deviceId : (picked?.id ?? '')"
      @pick="pick" />
    <p v-if="table.data.value && !table.rows.value.length" class="none">
      <template v-if="table.data.value.of">Nothing passes “{{ table.filter.value }}”.</template>
      <template v-else
        >None documented yet. Write one, such as <code class="figure">{{ of.line }}</code>.</template
      >
    </p>
  </div>
</template>

<style scoped>
.all {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.segments {
  flex: none;
  align-self: flex-start;
  margin: 0 18px 8px;
}
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
