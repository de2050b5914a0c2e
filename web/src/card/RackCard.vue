<script setup lang="ts">
// What is known of a rack, and what it carries.
import { computed } from 'vue'
import type { Rack, Schemas } from '../api/client'
import { useLab, type LabState } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { count, kg, kindWords, mm, title } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import FactRow from './FactRow.vue'

const props = defineProps<{ lab: LabState; rack: Rack }>()
const { spaces, held, remove } = useLab()
const { change } = useActions()
const work = useWork()
const key = computed(() => ({ kind: 'rack' as const, id: props.rack.id }))
const space = computed(() => spaces.value.get(props.rack.id))
const unweighed = computed(() => (space.value?.weight.unweighed ?? []).flatMap((id) => props.lab.devices.get(id) ?? []))
const { data: walk } = useReport<Schemas['Complete']>(() => `/api/v1/walk?rack_id=${props.rack.id}`)
const { data: wiring } = useReport<Schemas['RackWiring']>(() => `/api/v1/racks/${props.rack.id}/wiring`)
const empty = computed(() => !held.value.get(props.rack.id)?.length)
const place = computed(() => props.lab.places.get(props.rack.place_id ?? '')?.name)
const forms = [
  { value: '19in', title: '19 inch' },
  { value: '10in', title: '10 inch' },
  { value: 'own measures', title: 'own measures' },
]
const stances = [
  { value: 'standing', title: 'standing' },
  { value: 'on castors', title: 'on castors' },
  { value: 'on a wall', title: 'on a wall' },
]
const stance = computed(() => stances.find((s) => s.value.endsWith(props.rack.stance ?? '?'))?.title)
const carries = computed(() => {
  const w = space.value?.weight
  if (!w) return ''
  if (!w.things) return 'Nothing yet'
  const known = w.known_kg ? `${w.unweighed.length ? 'At least ' : ''}${kg(w.known_kg)}` : 'Not weighed'
  return `${known}${w.holds_kg ? ` of ${kg(w.holds_kg)}` : ''}, ${count(w.things)}`
})
</script>

<template>
  <div>
    <FactRow class="name" :record="key" field="name" label="Name" :text="rack.name" gap="name" />
    <p class="sub">rack{{ place ? ` · ${place}` : '' }}</p>
    <div>
      <FactRow :record="key" field="height_u" label="Height" :text="`${rack.height_u}U`" mono />
      <FactRow :record="key" field="form" label="Width" :text="forms.find((f) => f.value.startsWith(rack.form ?? '?'))?.title" gap="19 or 10 inch" :choices="forms" />
      <template v-if="rack.form === 'own'">
        <FactRow :record="key" field="face_mm" label="Face" :text="rack.face_mm ? mm(rack.face_mm) : undefined" gap="mm" mono />
        <FactRow :record="key" field="opening_mm" label="Opening" :text="rack.opening_mm ? mm(rack.opening_mm) : undefined" gap="mm" mono />
      </template>
      <FactRow :record="key" field="depth_mm" label="Depth" :text="rack.depth_mm ? mm(rack.depth_mm) : undefined" gap="mm" mono />
      <FactRow :record="key" field="door_mm" label="Behind door" :text="rack.door_mm ? mm(rack.door_mm) : undefined" gap="mm" mono />
      <FactRow :record="key" field="holds_kg" label="Holds" :text="rack.holds_kg ? kg(rack.holds_kg) : undefined" gap="kg" mono />
      <FactRow v-if="rack.stance === 'castors'" :record="key" field="moving_kg" label="Rolling" :text="rack.moving_kg ? kg(rack.moving_kg) : undefined" gap="kg" mono />
      <FactRow :record="key" field="stance" label="Stands" :text="stance" gap="how" :choices="stances" />
      <FactRow :record="key" field="place_id" label="Where" :text="place" gap="which place" />
    </div>
    <h2>Known</h2>
    <p v-if="walk">{{ walk.known }} of {{ walk.of }} facts that matter<template v-if="walk.gaps.length">; <router-link to="/walk">walk through the other {{ walk.gaps.length }} ›</router-link></template></p>
    <h2>Carries</h2>
    <p>{{ carries }}</p>
    <template v-if="wiring?.ease.devices">
      <h2>Comes out alone</h2>
      <p>{{ wiring.ease.alone.length }} of {{ wiring.ease.devices }}{{ wiring.ease.unsure ? `; of ${wiring.ease.unsure} nobody said which way the leads go` : '' }}<template v-if="wiring.ease.advice">. {{ wiring.ease.advice }}.</template></p>
    </template>
    <template v-if="unweighed.length">
      <h2>Not weighed</h2>
      <ul class="things">
        <li v-for="d in unweighed" :key="d.id"><button @click="work.pick(d.id)"><b>{{ title(d) }}</b><span class="soft">{{ kindWords(d.device_kind) }}</span></button></li>
      </ul>
    </template>
    <h2>Notes</h2>
    <FactRow :record="key" field="notes" label="Notes" :text="rack.notes" gap="none yet" long class="notes" />
    <div class="buttons">
      <v-btn v-if="empty" @click="change([remove(key)])">Remove the rack</v-btn>
    </div>
  </div>
</template>

<style scoped>
a {
  color: var(--water);
}
.notes :deep(.term) {
  display: none;
}
</style>
