<script setup lang="ts">
// The card at the right: everything about the one thing that is picked.
import { mdiClose } from '@mdi/js'
import { useLab } from '../lab/useLab'
import { useWork } from '../work/work'
import DeviceCard from './DeviceCard.vue'
import PlaceCard from './PlaceCard.vue'
import RackCard from './RackCard.vue'

const work = useWork()
const { lab } = useLab()
</script>

<template>
  <aside v-if="lab && (work.device || work.rack || work.place)" id="card" class="card" :class="{ open: work.cardOpen }" aria-label="Card" tabindex="-1">
    <v-btn class="close" :icon="mdiClose" size="44" variant="text" aria-label="Close the card" @click="work.cardOpen = false" />
    <DeviceCard v-if="work.device" :key="work.device.id" :lab="lab" :device="work.device" />
    <PlaceCard v-else-if="work.place" :key="work.place.id" :lab="lab" :place="work.place" />
    <RackCard v-else-if="work.rack" :key="work.rack.id" :lab="lab" :rack="work.rack" />
  </aside>
</template>

<style scoped>
.card {
  position: relative;
  padding: 12px 16px 20px;
  overflow-y: auto;
  background: var(--sheet);
  border-left: 1px solid var(--rule);
}
.card:focus-visible {
  outline: none;
}
.close {
  display: none;
}
@media (max-width: 700px) {
  .card {
    display: none;
    position: fixed;
    z-index: 30;
    inset: 0;
    border: 0;
  }
  .card.open {
    display: block;
  }
  .close {
    display: inline-flex;
    position: absolute;
    right: 8px;
    top: 8px;
    z-index: 1;
  }
}
</style>
