<script setup lang="ts">
// Bays, slots and sockets with what is in them. A part is dragged to another
// seat, also onto one that is taken: the two change places.
import { ref } from 'vue'
import type { Schemas } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { capital } from '../lab/words'

const props = defineProps<{ device: string; maps: Schemas['SeatMap'][]; loose: Schemas['PartLine'][] }>()
const emit = defineEmits<{ part: [id: string]; empty: [line: string] }>()
const { send } = useLab()

const dragged = ref<Schemas['PartLine']>()
const over = ref('')

function lift(part: Schemas['PartLine'], event: DragEvent) {
  dragged.value = part
  event.dataTransfer?.setData('text/plain', part.title)
}
function hover(kind: string, key: string, event: DragEvent) {
  if (dragged.value && (kind === dragged.value.part_kind || !kind)) {
    event.preventDefault()
    over.value = key
  }
}
async function drop(seating: { device_id?: string; seat?: number }) {
  const part = dragged.value
  dragged.value = undefined
  over.value = ''
  if (part) await attempt(() => send('/api/v1/parts/{id}/seat', seating, { id: part.id }))
}
function describe(m: Schemas['SeatMap'], s: Schemas['Seat']): string {
  const has = s.part
    ? [s.part.title, s.part.sub, s.part.state !== 'running' && s.part.state, s.part.trouble]
    : ['free', s.of && `for ${s.of}`]
  return `${capital(m.word)} ${s.number}: ${has.filter(Boolean).join(', ')}`
}
</script>

<template>
  <template v-for="m in maps" :key="m.part_kind">
    <h2>
      {{ m.title }}<span class="count figure">{{ m.seats.filter((s) => s.part).length }} of {{ m.seats.length }}</span>
    </h2>
    <ol class="seats" :class="{ small: m.seats.length > 12, few: m.seats.length < 3 }" :aria-label="m.title">
      <li v-for="s in m.seats" :key="s.number">
        <button
          :class="{
            free: !s.part,
            off: s.part && s.part.state !== 'running',
            amiss: s.part?.trouble,
            over: over === m.part_kind + s.number,
          }"
          :aria-label="describe(m, s)"
          :title="describe(m, s)"
          :draggable="!!s.part"
          @click="s.part ? emit('part', s.part.id) : emit('empty', `${m.word} ${s.number} ${m.part_kind}: `)"
          @dragstart="s.part && lift(s.part, $event)"
          @dragend="dragged = undefined"
          @dragover="hover(m.part_kind, m.part_kind + s.number, $event)"
          @dragleave="over = ''"
          @drop.prevent="drop({ device_id: props.device, seat: s.number })">
          <b>{{ m.seats.length > 12 ? (s.part ? s.part.title.split(' ')[0] : s.number) : s.part ? s.part.title : 'free' }}</b>
          <small v-if="m.seats.length <= 12 && (s.part?.trouble || s.part?.sub || s.of)">{{
            s.part ? (s.part.state === 'faulty' ? 'faulty' : s.part.sub) : s.of
          }}</small>
        </button>
      </li>
    </ol>
  </template>
  <template v-if="loose.length">
    <h2>Loose inside</h2>
    <ol class="seats">
      <li v-for="p in loose" :key="p.id">
        <button draggable="true" @click="emit('part', p.id)" @dragstart="lift(p, $event)" @dragend="dragged = undefined">
          <b>{{ p.title }}</b><small v-if="p.sub">{{ p.sub }}</small>
        </button>
      </li>
    </ol>
  </template>
  <p
    v-if="dragged"
    class="binned"
    :class="{ over: over === 'bin' }"
    @dragover="hover('', 'bin', $event)"
    @dragleave="over = ''"
    @drop.prevent="drop({})">
    To the spares bin
  </p>
</template>

<style scoped>
.count {
  float: right;
  font-weight: 400;
}
.seats {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 4px;
  list-style: none;
}
.seats.small {
  grid-template-columns: repeat(8, minmax(0, 1fr));
}
.seats.few {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}
.seats button {
  display: flex;
  flex-direction: column;
  justify-content: center;
  width: 100%;
  min-height: 34px;
  padding: 2px 5px;
  overflow: hidden;
  text-align: left;
  border: 1px solid var(--water);
  border-radius: 2px;
  background: color-mix(in srgb, var(--sheet) 88%, var(--water));
}
.seats b {
  font: 500 12px/1.25 var(--figures);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.seats small {
  font: 400 12px/1.2 var(--names);
  color: var(--soft);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.seats.small b {
  font-size: 12px;
}
.seats .free {
  border: 1px dashed var(--soft);
  background: none;
}
.seats .free b {
  color: var(--soft);
  font-weight: 400;
}
.seats .off {
  border-style: dashed;
}
.seats .amiss {
  border-color: var(--red);
  border-width: 2px;
}
.seats .over,
.binned.over {
  outline: 2px solid var(--red);
}
.seats [draggable='true'] {
  cursor: grab;
}
.binned {
  margin-top: 6px;
  padding: 8px;
  text-align: center;
  border: 1px dashed var(--soft);
}
@media (max-width: 700px) {
  .seats,
  .seats.small {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
  .seats button {
    min-height: 44px;
  }
}
</style>
