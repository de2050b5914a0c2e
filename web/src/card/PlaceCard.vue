<script setup lang="ts">
// What is known of a place.
import { computed } from 'vue'
import type { Place } from '../api/client'
import { useLab, type LabState } from '../lab/useLab'
import { kindWords, title } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'
import FactRow from './FactRow.vue'

const props = defineProps<{ lab: LabState; place: Place }>()
const { held, remove } = useLab()
const { change } = useActions()
const work = useWork()
const key = computed(() => ({ kind: 'place' as const, id: props.place.id }))
const things = computed(() => held.value.get(props.place.id) ?? [])
const racks = computed(() => [...props.lab.racks.values()].filter((r) => r.place_id === props.place.id))
const inside = computed(() => [...props.lab.places.values()].filter((p) => p.place_id === props.place.id))
</script>

<template>
  <div>
    <FactRow class="name" :record="key" field="name" label="Name" :text="place.name" gap="name" />
    <p class="sub">place</p>
    <div><FactRow :record="key" field="place_id" label="In" :text="lab.places.get(place.place_id ?? '')?.name" gap="which place" /></div>
    <h2>What is here</h2>
    <ul class="things">
      <li v-for="r in racks" :key="r.id"><button @click="work.pickRack(r.id)"><b>{{ r.name }}</b><span class="soft">rack, {{ r.height_u }}U</span></button></li>
      <li v-for="p in inside" :key="p.id"><button @click="work.pickPlace(p.id)"><b>{{ p.name }}</b><span class="soft">place</span></button></li>
      <li v-for="d in things" :key="d.id"><button @click="work.pick(d.id)"><b>{{ title(d) }}</b><span class="soft">{{ kindWords(d.device_kind) }}</span></button></li>
    </ul>
    <p v-if="!things.length && !racks.length && !inside.length" class="soft">Nothing yet. Type a line such as <code class="figure">in "{{ place.name }}" access point "ap"</code>.</p>
    <h2>Notes</h2>
    <FactRow :record="key" field="notes" label="Notes" :text="place.notes" gap="none yet" long class="notes" />
    <div class="buttons">
      <v-btn v-if="!things.length && !racks.length && !inside.length" @click="change([remove(key)])">Remove the place</v-btn>
    </div>
  </div>
</template>

<style scoped>
.notes :deep(.term) {
  display: none;
}
</style>
