<script setup lang="ts">
// How the columns of someone's file are read, and how to change that.
import { computed } from 'vue'
import type { Schemas } from '../api/client'

const props = defineProps<{ columns: Schemas['FileColumn'][]; targets: Schemas['FileTarget'][] }>()
const emit = defineEmits<{ take: [columns: string[]] }>()
const left = computed(() => props.columns.flatMap((c, i) => (c.field ? [] : [c.name || `column ${i + 1}`])))
const guessed = computed(() => props.columns.filter((c) => c.field && c.field !== c.name.toLowerCase()).length)
const summary = computed(() =>
  [
    `${props.columns.length} columns`,
    guessed.value ? `${guessed.value} taken for what their names say` : 'named like ours',
    left.value.length ? `left out: ${left.value.join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(', '),
)
/** Another column may have it; then that one is left out. */
function take(at: number, field: string) {
  emit(
    'take',
    props.columns.map((c, i) => (i === at ? field : c.field && c.field === field ? '' : (c.field ?? ''))),
  )
}
</script>

<template>
  <details :open="left.length + guessed > 0">
    <summary>{{ summary }}</summary>
    <div class="table" tabindex="0" role="region" aria-label="Columns of the file">
      <table>
        <thead>
          <tr>
            <th>In the file</th>
            <th>For example</th>
            <th>Read as</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, i) in columns" :key="i" :class="{ left: !c.field }">
            <th scope="row">{{ c.name || `column ${i + 1}` }}</th>
            <td class="figure">{{ c.sample }}</td>
            <td>
              <select
                class="field"
                :value="c.field ?? ''"
                :aria-label="`${c.name || `column ${i + 1}`} is read as`"
                @change="take(i, ($event.target as HTMLSelectElement).value)">
                <option value="">nothing: skip it</option>
                <option v-for="t in targets" :key="t.name" :value="t.name">{{ t.title }}</option>
              </select>
              <span v-if="c.unit" class="soft"> in {{ c.unit }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </details>
</template>

<style scoped>
summary {
  margin-top: 12px;
  cursor: pointer;
}
.table {
  max-height: 250px;
  margin-top: 4px;
  overflow-y: auto;
  border-bottom: 1px solid var(--rule);
}
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 2px 10px 2px 0;
  border-bottom: 1px solid var(--rule);
  text-align: left;
  font-weight: 400;
  overflow-wrap: anywhere;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--paper);
  font-size: 13px;
  color: var(--soft);
}
tbody th {
  font: 600 14px var(--names);
}
.left th,
.left td:not(:last-child) {
  color: var(--soft);
  text-decoration: line-through;
}
select {
  max-width: 220px;
}
@media (max-width: 700px) {
  td.figure,
  thead th:nth-child(2) {
    display: none;
  }
  select {
    max-width: 132px;
  }
}
</style>
