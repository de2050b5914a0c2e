<script setup lang="ts">
// What is known of a rack, and what it carries.
import { computed } from 'vue'
import { api } from '../api/address'
import type { Rack } from '../api/client'
import { useLab, type LabState } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { count, kg, whatIs, title } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import RecordCard from './RecordCard.vue'
import { useCard } from './useCard'

const props = defineProps<{ lab: LabState; rack: Rack }>()
const { spaces, held, remove } = useLab()
const { change } = useActions()
const work = useWork()
const key = computed(() => ({ kind: 'rack' as const, id: props.rack.id }))
const { data: card } = useCard(() => key.value)
const space = computed(() => spaces.value.get(props.rack.id))
const unweighed = computed(() => (space.value?.weight.unweighed ?? []).flatMap((id) => props.lab.devices.get(id) ?? []))
const { data: walk } = useReport(() => api('/api/v1/walk', { rack_id: props.rack.id }))
const { data: wiring } = useReport(() => api('/api/v1/racks/{id}/wiring', { id: props.rack.id }))
const empty = computed(() => !held.value.get(props.rack.id)?.length)
const carries = computed(() => {
  const w = space.value?.weight
  if (!w) return ''
  if (!w.things) return 'Nothing yet'
  const known = w.known_kg ? `${w.unweighed.length ? 'At least ' : ''}${kg(w.known_kg)}` : 'Not weighed'
  return `${known}${w.holds_kg ? ` of ${kg(w.holds_kg)}` : ''}, ${count(w.things)}`
})
</script>

<template>
  <RecordCard :record="key" :card="card">
    <h2>Known</h2>
    <p v-if="walk">
      {{ walk.known }} of {{ walk.of }} facts that matter<template v-if="walk.gaps.length"
        >; <router-link to="/walk">walk through the {{ walk.gaps.length }} gaps ›</router-link></template
      >
    </p>
    <h2>Carries</h2>
    <p>{{ carries }}</p>
    <template v-if="wiring?.ease.devices">
      <h2>Removable alone</h2>
      <p>
        {{ wiring.ease.alone.length }} of {{ wiring.ease.devices
        }}{{ wiring.ease.unsure ? `; lead routes of ${wiring.ease.unsure} unknown` : ''
        }}<template v-if="wiring.ease.advice">. {{ wiring.ease.advice }}.</template>
      </p>
    </template>
    <template v-if="unweighed.length">
      <h2>Not weighed</h2>
      <ul class="things">
        <li v-for="d in unweighed" :key="d.id">
          <button @click="work.pick(d.id)">
            <b>{{ title(d) }}</b><span class="soft">{{ whatIs(d) }}</span>
          </button>
        </li>
      </ul>
    </template>
    <template #remove><v-btn v-if="empty" @click="change([remove(key)])">Remove the rack</v-btn></template>
  </RecordCard>
</template>
