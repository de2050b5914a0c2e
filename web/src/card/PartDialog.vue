<script setup lang="ts">
// One part: its facts, and where it goes.
import { computed, ref } from 'vue'
import { attempt, useLab } from '../lab/useLab'
import { isGuest, title } from '../lab/words'
import { useStorage } from '../work/useStorage'
import GoesWith from './GoesWith.vue'
import IfGone from './IfGone.vue'
import RecordCard from './RecordCard.vue'
import { useCard } from './useCard'

const props = defineProps<{ id: string }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send, remove } = useLab()
const key = computed(() => ({ kind: 'part' as const, id: props.id }))
const { data: card } = useCard(() => key.value)
const part = computed(() => lab.value?.parts.get(props.id))

const { stored } = useStorage(() => part.value?.part_kind === 'drive')
const poolsOf = computed(() => (stored.value?.pools ?? []).filter((p) => p.drives.some((d) => d.part_id === props.id)))

const places = computed(() => [
  { value: '', title: 'the spares bin' },
  { value: 'ordered', title: 'on order' },
  ...[...(lab.value?.devices.values() ?? [])]
    .filter((d) => !isGuest(d))
    .map((d) => ({ value: d.id, title: title(d) }))
    .sort((a, b) => a.title.localeCompare(b.title, 'en')),
])
const holder = computed(() => (part.value?.ordered ? 'ordered' : (part.value?.device_id ?? '')))
const seat = ref('')

async function move(to: string, at = 0) {
  const seating = to === 'ordered' ? { ordered: true } : to ? { device_id: to, seat: at } : {}
  await attempt(() => send('/api/v1/parts/{id}/seat', seating, { id: props.id }))
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
    <v-card v-if="card && part" class="part">
      <v-card-text class="card">
        <RecordCard :record="key" :card="card" :apart="['part_kind', 'device_id', 'seat']" :asked="['price_minor', 'serial']">
          <template v-if="part.part_kind === 'drive' && poolsOf.length">
            <h2>In {{ poolsOf.length === 1 ? 'the pool' : 'the pools' }}</h2>
            <p v-for="p in poolsOf" :key="p.id">
              <b>{{ p.device }}/{{ p.name }}</b
              >, {{ p.words }}: {{ p.may_fail_words }}
            </p>
            <GoesWith :record="key" />
            <IfGone :record="key" />
          </template>
          <h2>Where</h2>
          <div class="to">
            <v-select :model-value="holder" :items="places" label="In" hide-details @update:model-value="move($event)" />
            <v-text-field
              v-if="part.device_id"
              v-model="seat"
              class="seat"
              :label="`Seat ${part.seat ?? 'loose'}`"
              inputmode="numeric"
              hide-details
              @keydown.enter="sit" />
          </div>
        </RecordCard>
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
