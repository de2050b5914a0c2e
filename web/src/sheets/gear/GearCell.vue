<script setup lang="ts">
// One cell: a fact that is read, and edited where it stands. Enter keeps it and
// goes on to the row below, Tab to the side, Escape leaves it.
import { nextTick, ref, watch } from 'vue'
import { Refused, type Schemas } from '../../api/client'
import { spaced } from '../../lab/words'

const props = defineProps<{ column: Schemas['Column']; text: string; here: boolean; editing: boolean; keep: (text: string) => Promise<unknown> }>()
const emit = defineEmits<{ focus: []; edit: []; done: [by: number] }>()
const entry = ref('')
const wrong = ref('')
const field = ref<HTMLInputElement | HTMLSelectElement>()

watch(
  () => props.editing,
  async (on) => {
    wrong.value = ''
    if (!on) return
    entry.value = props.column.choices ? props.text.toLowerCase() : props.text
    await nextTick()
    field.value?.focus()
    if (field.value instanceof HTMLInputElement) field.value.select()
  },
)

// As on the card: another window's change is told, and what was typed stays.
watch(
  () => props.text,
  (now, was) => {
    if (!props.editing || entry.value === was) return
    wrong.value = `Another window made it ${now || 'unknown'} meanwhile. Enter keeps what you typed, Escape takes theirs.`
  },
)

let leaving = false
async function keepIt(by: number) {
  if (!props.editing || leaving) return
  if (entry.value.trim() === props.text) return emit('done', by)
  leaving = true
  try {
    await props.keep(entry.value)
    emit('done', by)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
    field.value?.focus()
  } finally {
    leaving = false
  }
}
const figures = new Set(['figure', 'memory', 'capacity', 'price', 'day'])
</script>

<template>
  <div role="gridcell" class="cell" :class="[column.field, { figure: figures.has(column.kind), derived: column.derived }]" :tabindex="here && !editing ? 0 : -1" @focus="emit('focus')" @click="emit('focus')" @dblclick="emit('edit')">
    <template v-if="editing">
      <select v-if="column.choices" ref="field" v-model="entry" :aria-label="column.title" @change="keepIt(0)" @keydown.esc.stop="emit('done', 0)" @blur="keepIt(0)">
        <option v-for="c in column.choices" :key="c" :value="c">{{ c }}</option>
      </select>
      <input v-else ref="field" v-model="entry" :aria-label="column.title" :aria-invalid="!!wrong" autocomplete="off" @keydown.enter.stop.prevent="keepIt(1)" @keydown.tab.stop.prevent="keepIt(0)" @keydown.esc.stop="emit('done', 0)" @blur="wrong || keepIt(0)" />
      <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
    </template>
    <template v-else-if="text">{{ spaced(column.field === 'at' ? text.replaceAll('"', '') : text) }}</template>
    <span v-else-if="column.field !== 'name' && !column.derived" class="gap" aria-label="unknown">?</span>
    <span v-else class="soft">–</span>
  </div>
</template>

<style scoped>
.cell {
  position: relative;
  padding: 0 8px;
  line-height: 30px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: default;
}
.cell:has(.wrong) {
  overflow: visible;
}
.cell:focus-visible {
  outline: 2px solid var(--red);
  outline-offset: -2px;
}
.cell.figure {
  text-align: right;
}
.cell.derived {
  background: color-mix(in srgb, var(--sheet) 60%, var(--strip));
}
.cell.name {
  font: 600 14px/30px var(--names);
}
.gap {
  color: var(--soft);
  font-family: var(--figures);
}
input,
select {
  position: absolute;
  inset: 1px;
  width: calc(100% - 2px);
  padding: 0 6px;
  font: inherit;
  color: var(--ink);
  background: var(--paper);
  border: 1.5px solid var(--red);
  border-radius: 2px;
  outline: none;
}
.wrong {
  position: absolute;
  z-index: 3;
  top: 31px;
  left: 0;
  width: max-content;
  max-width: 340px;
  padding: 5px 9px;
  font: 400 13px/1.4 var(--sentences);
  text-align: left;
  white-space: normal;
  color: var(--red);
  background: var(--sheet);
  border: 1px solid var(--red);
  border-radius: 3px;
}
</style>
