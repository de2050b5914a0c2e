<script setup lang="ts">
// What stands at the right of a sheet while no device is picked: the card of the record that
// is, or what is to be put right about all that the sheet shows.
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { isOpen, useFindings } from '../lab/useFindings'
import { attempt, useLab } from '../lab/useLab'
import { pickedOn } from '../work/usePicked'
import { useWork } from '../work/work'
import CardFrame from './CardFrame.vue'
import PutRight from './PutRight.vue'
import RecordCard from './RecordCard.vue'
import { useCard } from './useCard'

const props = defineProps<{
  sheet: string
  name: string
  /** Which findings are about it. */
  concerns: (f: Schemas['Finding']) => boolean | undefined
  /** There is something that the checks could have noticed something about. */
  some: boolean
}>()
const work = useWork()
const { lab, send } = useLab()
const { findings } = useFindings()
const picked = pickedOn(props.sheet)
const { data: card } = useCard(() => picked.value ?? { kind: 'device', id: '' })
const here = computed(() => findings.value.filter((f) => isOpen(f) && props.concerns(f)))
const about = computed(() => here.value.filter((f) => f.records.some((r) => r.id === picked.value?.id)))
const still = computed(() => lab.value?.view.kind === 'past')
async function remove() {
  const gone = picked.value
  if (gone && (await attempt(() => send('/api/v1/changes', { changes: [{ remove: gone }] })))) picked.value = undefined
}
</script>

<template>
  <CardFrame v-if="picked && card" :open="work.cardOpen" @close="work.cardOpen = false">
    <RecordCard :record="picked" :card="card" :still="still">
      <template #head><slot name="head" :record="picked" /></template>
      <PutRight v-if="about.length" :findings="about" />
      <slot :record="picked" />
      <template #buttons
        ><v-btn @click="picked = undefined">All {{ name.toLowerCase() }}</v-btn></template
      >
      <template #remove><v-btn v-if="!still" @click="remove">Remove</v-btn></template>
    </RecordCard>
  </CardFrame>
  <CardFrame v-else-if="!picked" :open="work.cardOpen" @close="work.cardOpen = false">
    <p class="title">{{ name }}</p>
    <p class="sub"><slot name="sum" /></p>
    <PutRight v-if="here.length" :findings="here" />
    <p v-else-if="some">The checks noticed nothing about it.</p>
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 20px/1.2 var(--names);
}
</style>
