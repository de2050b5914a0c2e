<script setup lang="ts">
// Making room: so many units in one piece with the fewest moves, looked at step
// by step before it is done.
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../../api/address'
import { latest } from '../../api/latest'
import { get, type ChangeIn, type Device, type Rack, type Schemas } from '../../api/client'
import type { Marks } from '../../draw/marks'
import { attempt, say, useLab } from '../../lab/useLab'

const props = defineProps<{ rack: Rack }>()
const emit = defineEmits<{ marks: [marks: Marks | undefined]; close: [] }>()
const { lab, send, put } = useLab()
const units = ref(4)
const room = shallowRef<Schemas['Room']>()
const at = ref(0)
const { ask } = latest()

watch(
  () => [units.value, props.rack.id, lab.value?.revision] as const,
  async ([n, rack]) => {
    at.value = 0
    if (!Number.isInteger(n) || n < 1) return void (room.value = undefined)
    await ask(
      () => get(api('/api/v1/racks/{id}/room', { id: rack, units: n })),
      (answer) => (room.value = answer),
      (why) => say(why, true),
    )
  },
  { immediate: true },
)

const moves = computed(() => room.value?.moves ?? [])
/** What is done up to the step that is looked at; all of it at the start. */
const shown = computed(() => (at.value ? moves.value.slice(0, at.value) : moves.value))
watch(
  shown,
  (list) => {
    const marks: Marks = { came: new Set(), went: [], moved: [] }
    const last = new Map(list.map((m) => [m.device_id, m]))
    for (const m of last.values()) {
      const from = lab.value?.devices.get(m.device_id)
      if (from && m.at) marks.moved.push({ from, to: { ...from, at: m.at } })
      else if (from) marks.went.push(from)
    }
    emit('marks', list.length ? marks : undefined)
  },
  { immediate: true },
)

const moved = (m: Schemas['RoomMove']): Device[] => {
  const d = lab.value?.devices.get(m.device_id)
  return d ? [{ ...d, at: m.at }] : []
}

/** As built it is one change; in a draft a step for each move, to be ticked off one by one. */
async function make() {
  const label = `made room for ${units.value}U in ${props.rack.name}`
  if (lab.value?.view.kind === 'draft') {
    for (const m of moves.value) {
      if (!(await attempt(() => send('/api/v1/changes', { changes: moved(m).map(put) })))) return
    }
  } else {
    const last = [...new Map(moves.value.map((m) => [m.device_id, m])).values()]
    const changes: ChangeIn[] = last.flatMap(moved).map(put)
    if (!(await attempt(() => send('/api/v1/changes', { label, changes })))) return
  }
  emit('close')
}
</script>

<template>
  <section class="making" aria-label="Make room">
    <label
      >Make room for
      <input v-model.number="units" type="number" min="1" :max="rack.height_u" aria-label="Units" @keydown.enter="moves.length && make()" />
      U in one piece</label
    >
    <template v-if="room">
      <p v-if="room.why" class="bad">{{ room.why }}.</p>
      <p v-else-if="!moves.length">Units {{ room.range }} are already free.</p>
      <template v-else>
        <p class="soft">{{ room.fewest ? 'Fewest moves' : 'Few moves' }}: {{ room.range }} come free.</p>
        <ol>
          <li v-for="(m, i) in moves" :key="i">
            <button :aria-pressed="at === i + 1" @click="at = at === i + 1 ? 0 : i + 1">
              <b>{{ m.title }}</b> <span class="figure">{{ m.from || 'out' }} → {{ m.to || 'out for now' }}</span>
            </button>
          </li>
        </ol>
        <v-btn size="small" @click="make">Do {{ moves.length === 1 ? 'it' : `all ${moves.length}` }}</v-btn>
      </template>
    </template>
    <v-btn size="small" variant="text" @click="emit('close')">Close</v-btn>
  </section>
</template>

<style scoped>
.making {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  margin: 0 18px 6px;
  padding: 6px 12px;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 3px;
  font-size: 14px;
}
input {
  width: 52px;
  padding: 1px 6px;
  font: 400 14px var(--figures);
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--soft);
  border-radius: 3px;
}
ol {
  display: flex;
  flex-wrap: wrap;
  gap: 4px;
  list-style: none;
}
li button {
  padding: 1px 8px;
  border: 1px solid var(--rule);
  border-radius: 3px;
}
li button[aria-pressed='true'] {
  border-color: var(--red);
}
b {
  font: 600 14px var(--names);
}
.bad {
  color: var(--red);
}
</style>
