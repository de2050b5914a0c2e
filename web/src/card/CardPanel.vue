<script setup lang="ts">
// The card at the right: everything about the one thing that is picked.
import { useLab } from '../lab/useLab'
import { useWork } from '../work/work'
import CardFrame from './CardFrame.vue'
import DeviceCard from './DeviceCard.vue'
import PlaceCard from './PlaceCard.vue'
import RackCard from './RackCard.vue'

const work = useWork()
const { lab } = useLab()
</script>

<template>
  <CardFrame v-if="lab && (work.device || work.rack || work.place)" :open="work.cardOpen" @close="work.cardOpen = false">
    <DeviceCard v-if="work.device" :key="work.device.id" :lab="lab" :device="work.device" />
    <PlaceCard v-else-if="work.place" :key="work.place.id" :place="work.place" />
    <RackCard v-else-if="work.rack" :key="work.rack.id" :lab="lab" :rack="work.rack" />
  </CardFrame>
</template>
