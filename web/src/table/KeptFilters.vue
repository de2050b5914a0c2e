<script setup lang="ts">
// Saved filters, with their columns and groups.
import { computed, ref } from 'vue'
import { attempt, useLab } from '../lab/useLab'
import type { Table } from './useTable'

const props = defineProps<{ table: Table }>()
const { lab, send, add, remove } = useLab()
const name = ref('')
const kept = computed(() => [...(lab.value?.filters.values() ?? [])].sort((a, b) => a.name.localeCompare(b.name, 'en')))

async function keep() {
  const same = kept.value.find((f) => f.name === name.value.trim())
  const { filter, chosen, sort, group } = props.table
  const is = {
    kind: 'filter',
    id: same?.id,
    name: name.value.trim(),
    text: filter.value.trim() || undefined,
    columns: chosen.value,
    sort: sort.value,
    group: group.value || undefined,
  }
  if (is.name && (await attempt(() => send('/api/v1/changes', { changes: [add(is)] })))) name.value = ''
}
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opener }"><v-btn v-bind="opener" size="small" variant="text">Saved filters</v-btn></template>
    <v-card class="kept">
      <ul v-if="kept.length" aria-label="Saved filters">
        <li v-for="f in kept" :key="f.id">
          <button class="use" @click="table.show(f)">
            <b>{{ f.name }}</b><span class="soft figure">{{ f.text }}</span>
          </button>
          <button
            :aria-label="`Delete ${f.name}`"
            @click="attempt(() => send('/api/v1/changes', { changes: [remove({ kind: 'filter', id: f.id })] }))">
            ×
          </button>
        </li>
      </ul>
      <p v-else class="soft">None yet. Filter, choose columns, then save them under a name.</p>
      <v-text-field v-model="name" label="Save as" hide-details @keydown.enter="keep" />
    </v-card>
  </v-menu>
</template>

<style scoped>
.kept {
  width: 320px;
  padding: 12px 14px;
}
ul {
  margin-bottom: 10px;
  list-style: none;
}
li {
  display: flex;
  border-bottom: 1px solid var(--rule);
}
.use {
  flex: 1;
  min-width: 0;
  padding: 4px 0;
  text-align: left;
}
.use span {
  display: block;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li > button:last-child {
  min-width: 30px;
}
p {
  margin-bottom: 10px;
}
</style>
