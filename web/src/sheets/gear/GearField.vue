<script setup lang="ts">
// The field in a cell that is edited where it stands: Enter keeps what is typed
// and goes on to the row below, Tab to the side, Escape leaves it.
import { onMounted, ref, watch } from 'vue'
import { Refused, type Schemas } from '../../api/client'

const props = defineProps<{ column: Schemas['Column']; text: string; keep: (text: string) => Promise<unknown> }>()
const emit = defineEmits<{ done: [by: number] }>()
const entry = ref(props.column.choices ? props.text.toLowerCase() : props.text)
const wrong = ref('')
const field = ref<HTMLInputElement | HTMLSelectElement>()

onMounted(() => {
  field.value?.focus()
  if (field.value instanceof HTMLInputElement) field.value.select()
})

// As on the card: another window's change is told, and what was typed stays.
watch(
  () => props.text,
  (now, was) => {
    if (entry.value === was) return
    wrong.value = `Another window made it ${now || 'unknown'} meanwhile. Enter keeps what you typed, Escape takes theirs.`
  },
)

let leaving = false
async function keepIt(by: number) {
  if (leaving) return
  if (entry.value.trim() === props.text) return leave(by)
  leaving = true
  try {
    await props.keep(entry.value)
    emit('done', by)
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
    leaving = false
    field.value?.focus()
  }
}
function leave(by: number) {
  leaving = true
  emit('done', by)
}
</script>

<template>
  <select v-if="column.choices" ref="field" v-model="entry" :aria-label="column.title" @change="keepIt(0)" @keydown.esc.stop="leave(0)" @blur="keepIt(0)">
    <option v-for="c in column.choices" :key="c" :value="c">{{ c }}</option>
  </select>
  <input v-else ref="field" v-model="entry" :aria-label="column.title" :aria-invalid="!!wrong" autocomplete="off" @keydown.enter.stop.prevent="keepIt(1)" @keydown.tab.stop.prevent="keepIt(0)" @keydown.esc.stop="leave(0)" @blur="wrong || keepIt(0)" />
  <span v-if="wrong" class="wrong" role="alert">{{ wrong }}</span>
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
