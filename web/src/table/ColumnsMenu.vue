<script setup lang="ts">
// Which columns are shown, and in which order.
import { computed } from 'vue'
import { capital } from '../lab/words'
import type { Table } from './useTable'

const props = defineProps<{ table: Table }>()
const shown = computed(() => props.table.chosen.value.flatMap((f) => props.table.columns.value.find((c) => c.field === f) ?? []))
const others = computed(() => props.table.columns.value.filter((c) => !props.table.chosen.value.includes(c.field)))

function move(at: number, by: number) {
  const list = [...props.table.chosen.value]
  const [field] = list.splice(at, 1)
  if (field) list.splice(at + by, 0, field)
  props.table.choose(list)
}
const drop = (field: string) => props.table.choose(props.table.chosen.value.filter((f) => f !== field))
const add = (field: string) => props.table.choose([...props.table.chosen.value, field])
</script>

<template>
  <v-menu :close-on-content-click="false" location="bottom end">
    <template #activator="{ props: opener }"><v-btn v-bind="opener" size="small" variant="text">Columns</v-btn></template>
    <v-card class="columns" max-height="460">
      <ol aria-label="Columns shown">
        <li v-for="(c, i) in shown" :key="c.field">
          <span>{{ capital(c.title) }}</span>
          <button :disabled="!i" :aria-label="`${c.title} further left`" @click="move(i, -1)">↑</button>
          <button :disabled="i === shown.length - 1" :aria-label="`${c.title} further right`" @click="move(i, 1)">↓</button>
          <button :disabled="c.field === 'name'" :aria-label="`Hide ${c.title}`" @click="drop(c.field)">×</button>
        </li>
      </ol>
      <h3>More</h3>
      <ul aria-label="Columns to add">
        <li v-for="c in others" :key="c.field">
          <button class="add" @click="add(c.field)">{{ capital(c.title) }}</button>
        </li>
      </ul>
      <v-btn size="small" variant="text" @click="table.reset()">Reset</v-btn>
    </v-card>
  </v-menu>
</template>

<style scoped>
.columns {
  width: 280px;
  padding: 10px 14px;
  overflow-y: auto;
}
ol,
ul {
  list-style: none;
}
li {
  display: flex;
  align-items: center;
  min-height: 26px;
}
li span,
.add {
  flex: 1;
  text-align: left;
}
li button {
  min-width: 26px;
  min-height: 26px;
}
li button:disabled {
  opacity: 0.3;
}
.add::before {
  content: '+ ';
  color: var(--soft);
}
h3 {
  margin: 8px 0 2px;
  font-size: 14px;
  color: var(--soft);
}
</style>
