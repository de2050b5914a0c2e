<script setup lang="ts">
// The row that something new is typed into, or many rows are pasted into from a
// spreadsheet: taken whole or not at all.
import { computed, ref } from 'vue'
import { Refused, type Schemas } from '../api/client'
import { say, useLab } from '../lab/useLab'
import { capital } from '../lab/words'
import type { Table } from './useTable'

const props = defineProps<{ table: Table; columns: Schemas['Column'][] }>()
const { send } = useLab()
const typed = ref<Record<string, string>>({})
const wrong = ref('')
const ready = computed(() => Object.values(typed.value).some((t) => t.trim()))

/** Rows of cells, the first of which is of the given column. */
async function take(rows: string[][], from = 0) {
  const columns = props.columns.slice(from).filter((c) => !c.derived)
  wrong.value = ''
  try {
    const delta = await send('/api/v1/rows', {
      list: props.table.list,
      fields: columns.map((c) => c.field),
      rows: rows.map((r) => columns.map((_, i) => r[i]?.trim() ?? '')),
    })
    if (delta.label) say(delta.label)
    typed.value = {}
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
}
const add = () => ready.value && take([props.columns.filter((c) => !c.derived).map((c) => typed.value[c.field] ?? '')])

function paste(event: ClipboardEvent, at: number) {
  const text = event.clipboardData?.getData('text') ?? ''
  if (!/[\t\n]/.test(text.trim())) return
  event.preventDefault()
  const rows = text.replace(/\r?\n$/, '').split(/\r?\n/)
  void take(
    rows.map((l) => l.split('\t')),
    at,
  )
}
</script>

<template>
  <div class="row new" role="row" @keydown.enter.stop.prevent="add" @paste.stop>
    <span role="gridcell"
      ><button type="button" :disabled="!ready" title="Add it (Enter)" aria-label="Add the new row" @click="add">+</button></span
    >
    <div v-for="(c, i) in columns" :key="c.field" role="gridcell">
      <input
        v-if="!c.derived"
        v-model="typed[c.field]"
        :aria-label="`${capital(c.title)} of a new one`"
        :placeholder="i < 4 ? c.title : ''"
        autocomplete="off"
        spellcheck="false"
        @paste="paste($event, i)"
        @keydown.stop />
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </div>
</template>

<style scoped>
.row {
  position: relative;
  display: grid;
  grid-template-columns: var(--columns);
  min-width: var(--least);
  height: calc(var(--line) + 1px);
  border-bottom: 1px solid var(--rule);
}
input {
  width: 100%;
  height: var(--line);
  padding: 0 8px;
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-right: 1px dotted var(--rule);
}
input::placeholder {
  color: var(--soft);
  opacity: 1;
}
button {
  width: 30px;
  height: var(--line);
}
button:disabled {
  opacity: 0.4;
}
.wrong {
  position: absolute;
  z-index: 3;
  top: calc(var(--line) + 1px);
  left: 30px;
  max-width: 520px;
  padding: 5px 9px;
  font-size: 13px;
  color: var(--red);
  background: var(--sheet);
  border: 1px solid var(--red);
  border-radius: 3px;
}
</style>
