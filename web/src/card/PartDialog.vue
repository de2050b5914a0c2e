<script setup lang="ts">
// One part: its facts, and where it goes.
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { capital, title } from '../lab/words'
import FactList from './FactList.vue'
import FactRow from './FactRow.vue'
import HistoryList from './HistoryList.vue'

const props = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send, remove } = useLab()
const { data } = useReport<Schemas['PartCard']>(() => `/api/v1/parts/${props.id}/card`)
const all = ref(false)
const key = computed(() => ({ kind: 'part' as const, id: props.id }))
const part = computed(() => lab.value?.parts.get(props.id))

const places = computed(() => [
  { value: '', title: 'the spares bin' },
  { value: 'ordered', title: 'on order' },
  ...[...(lab.value?.devices.values() ?? [])].map((d) => ({ value: d.id, title: title(d) })).sort((a, b) => a.title.localeCompare(b.title, 'en')),
])
const holder = computed(() => (part.value?.ordered ? 'ordered' : (part.value?.device_id ?? '')))
const seat = ref('')

async function move(to: string, at = 0) {
  const seating = to === 'ordered' ? { ordered: true } : to ? { device_id: to, seat: at } : {}
  await attempt(() => send(`/api/v1/parts/${props.id}/seat`, seating))
}
async function sit() {
  const at = Number(seat.value)
  if (part.value?.device_id && Number.isInteger(at)) await move(part.value.device_id, at)
}
async function gone() {
  if (await attempt(() => send('/api/v1/changes', { changes: [remove(key.value)] }))) emit('close')
}
</script>

<template>
  <v-dialog :model-value="true" aria-label="A part" max-width="460" scrollable @update:model-value="emit('close')">
    <v-card v-if="data && part" class="part">
      <v-card-title>{{ part.name ?? capital(part.part_kind) }}</v-card-title>
      <v-card-text>
        <p class="soft">{{ part.part_kind }}, {{ data.where }}</p>
        <FactRow :record="key" field="name" label="Name" :text="part.name" gap="none" />
        <FactList :record="key" :facts="data.facts" :all="all" :fixed="['state', 'size_bytes', 'medium', 'interface', 'memory_type', 'cores', 'threads', 'put_in', 'serial', 'price_minor']" />
        <v-btn v-if="!all" variant="text" size="small" @click="all = true">All facts</v-btn>
        <h2>Where</h2>
        <div class="to">
          <v-select :model-value="holder" :items="places" label="In" hide-details @update:model-value="move($event)" />
          <v-text-field v-if="part.device_id" v-model="seat" class="seat" :label="`Seat ${part.seat ?? 'loose'}`" inputmode="numeric" hide-details @keydown.enter="sit" />
        </div>
        <HistoryList :record="key" />
      </v-card-text>
      <v-card-actions>
        <v-btn @click="gone">Remove it</v-btn>
        <v-spacer />
        <v-btn variant="flat" color="ink" @click="emit('close')">Done</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 {
  margin: 14px 0 6px;
  font-size: 14px;
  color: var(--soft);
}
.to {
  display: flex;
  gap: 10px;
}
.seat {
  max-width: 120px;
}
</style>
