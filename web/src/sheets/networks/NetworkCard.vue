<script setup lang="ts">
// What stands at the right while no device is picked: the card of the VLAN that is
// lit, or what is to be done about the network as a whole.
import { computed } from 'vue'
import CardFrame from '../../card/CardFrame.vue'
import PutRight from '../../card/PutRight.vue'
import { isOpen, useFindings } from '../../lab/useFindings'
import { useAddresses } from '../../work/useAddresses'
import { useNetwork, vlanKey } from '../../work/useNetwork'
import { useWork } from '../../work/work'
import AddressCard from './AddressCard.vue'
import VlanCard from './VlanCard.vue'

const work = useWork()
const { map, vlans, lit, vlan } = useNetwork()
const { shown, picked } = useAddresses()
const { findings } = useFindings()
const here = computed(() => findings.value.filter((f) => f.network && isOpen(f)))
</script>

<template>
  <AddressCard v-if="shown && picked" />
  <VlanCard v-else-if="vlan" />
  <CardFrame v-else-if="map" :open="work.cardOpen" @close="work.cardOpen = false">
    <p class="title">The network</p>
    <p class="sub">{{ map.nodes.length }} devices, {{ map.links.length }} links</p>
    <p v-if="!vlans.length">
      No VLANs yet. A line such as <code class="figure">vlan 20 "servers"</code> declares one, and
      <code class="figure">core/1-12 untagged 20</code> says which ports carry it. What nothing is said of passes everything on as it comes.
    </p>
    <PutRight v-if="here.length" :findings="here" />
    <p v-else-if="vlans.length">The checks noticed nothing about it.</p>
    <template v-if="vlans.length">
      <h2>VLANs</h2>
      <ul class="things">
        <li v-for="v in vlans" :key="vlanKey(v)">
          <button @click="lit = vlanKey(v)">
            <b
              ><span class="figure">{{ v.number }}</span> {{ v.name }}</b
            ><span class="soft">{{ v.purpose }}</span>
          </button>
        </li>
      </ul>
    </template>
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 20px/1.2 var(--names);
}
.things li {
  margin: 0;
}
.things .soft {
  padding-left: 12px;
  overflow: hidden;
  text-align: right;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.things b {
  white-space: nowrap;
}
</style>
