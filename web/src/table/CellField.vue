<script setup lang="ts">
// The field in a cell that is edited where it stands: Enter keeps what is typed
// and goes on to the row below, Tab to the side, Escape leaves it.
import { onMounted, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { useEntry } from '../card/useEntry'

const props = defineProps<{ column: Schemas['Column']; text: string; keep: (text: string, base: number) => Promise<unknown> }>()
const emit = defineEmits<{ done: [by: number] }>()
const field = ref<HTMLInputElement | HTMLSelectElement>()
const message = ref<HTMLElement>()
let open = true
let by = 0
const { entry, wrong, start, keep } = useEntry({
  now: () => props.text,
  open: () => open,
  keep: (text, base) => props.keep(text, base),
  done: leave,
})
start()

onMounted(() => {
  field.value?.focus()
  if (field.value instanceof HTMLInputElement) field.value.select()
})

// In the last column or row it would be cut off by the edge of the table.
watch(message, (m) => m?.scrollIntoView({ block: 'nearest', inline: 'nearest' }))

/** Keeps it, and goes on by so many rows. */
async function keepIn(rows: number) {
  by = rows
  await keep()
  if (wrong.value) field.value?.focus()
}
function escape() {
  by = 0
  leave()
}
function leave() {
  if (!open) return
  open = false
  emit('done', by)
}
</script>

<template>
  <select
    v-if="column.choices"
    ref="field"
    v-model="entry"
    :aria-label="column.title"
    @change="keepIn(0)"
    @keydown.enter.stop.prevent="keepIn(1)"
    @keydown.esc.stop="escape"
    @blur="wrong || keepIn(0)">
    <option v-for="c in column.choices" :key="c" :value="c">{{ c }}</option>
  </select>
  <input
    v-else
    ref="field"
    v-model="entry"
    :aria-label="column.title"
    :aria-invalid="!!wrong"
    autocomplete="off"
    @keydown.enter.stop.prevent="keepIn(1)"
    @keydown.tab.stop.prevent="keepIn(0)"
    @keydown.esc.stop="escape"
    @blur="wrong || keepIn(0)" />
  <span v-if="wrong" ref="message" class="wrong" role="alert">{{ wrong }}</span>
</template>

<style scoped>
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
  top: calc(var(--line) + 1px);
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
