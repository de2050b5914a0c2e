<script setup lang="ts">
// What stands at the right while no device is picked: the card of the service, stack,
// cluster or template that is, or what is to be done about what runs as a whole.
import { computed } from 'vue'
import CardFrame from '../../card/CardFrame.vue'
import PutRight from '../../card/PutRight.vue'
import RecordCard from '../../card/RecordCard.vue'
import { useCard } from '../../card/useCard'
import { isOpen, useFindings } from '../../lab/useFindings'
import { attempt, useLab } from '../../lab/useLab'
import { useServices } from '../../work/useServices'
import { useWork } from '../../work/work'

const work = useWork()
const { lab, send } = useLab()
const { running, picked } = useServices()
const { findings } = useFindings()
const { data: card } = useCard(() => picked.value ?? { kind: 'service', id: '' })
const about = computed(() => findings.value.filter((f) => isOpen(f) && f.service && f.records.some((r) => r.id === picked.value?.id)))
const here = computed(() => findings.value.filter((f) => f.service && isOpen(f)))
const still = computed(() => lab.value?.view.kind === 'past')
const guests = computed(() => (running.value?.hosts ?? []).reduce((n, h) => n + h.guests, 0))
const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
async function remove() {
  const gone = picked.value
  if (gone && (await attempt(() => send('/api/v1/changes', { changes: [{ remove: gone }] })))) picked.value = undefined
}
</script>

<template>
  <CardFrame v-if="picked && card" :open="work.cardOpen" @close="work.cardOpen = false">
    <RecordCard :record="picked" :card="card" :still="still">
      <PutRight v-if="about.length" :findings="about" />
      <template #buttons><v-btn @click="picked = undefined">All services</v-btn></template>
      <template #remove><v-btn v-if="!still" @click="remove">Remove</v-btn></template>
    </RecordCard>
  </CardFrame>
  <CardFrame v-else-if="running" :open="work.cardOpen" @close="work.cardOpen = false">
    <p class="title">Services</p>
    <p class="sub">
      {{ count(running.hosts.length, 'host') }}, {{ count(guests, 'guest') }}, {{ count(lab?.services.size ?? 0, 'service') }}
    </p>
    <PutRight v-if="here.length" :findings="here" />
    <p v-else-if="running.hosts.length">The checks noticed nothing about them.</p>
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 20px/1.2 var(--names);
}
</style>
