<script setup lang="ts">
// The addresses of a device, where they are and under which names, and who reaches it.
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import type { Schemas } from '../api/client'
import { useReport } from '../lab/useReport'
import { useAddresses } from '../work/useAddresses'
import { useWork } from '../work/work'
import ReachLists from './ReachLists.vue'

const props = defineProps<{ device: string }>()
const { data } = useReport(() => api('/api/v1/devices/{id}/addresses', { id: props.device }))
const { show, picked } = useAddresses()
const work = useWork()
const router = useRouter()
async function go(a: Schemas['AddressOn']) {
  if (!a.subnet_id) return
  show(a.subnet_id)
  await router.push('/networks/addresses')
  picked.value = a.address
  work.deviceId = ''
}
const how = (a: Schemas['AddressOn']) =>
  [a.port, a.gateway ? 'gateway' : a.how === 'fixed' ? '' : a.how.replace('_', ' '), a.in || (a.cable_id ? 'a link of its own' : '')]
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <template v-if="data?.addresses.length">
    <h2>Addresses</h2>
    <ul class="addresses">
      <li v-for="a in data.addresses" :key="a.address + (a.port ?? '')">
        <button v-if="a.subnet_id" class="figure" @click="go(a)">{{ a.address }}</button>
        <span v-else class="figure">{{ a.address }}</span>
        <span class="soft">{{ how(a) }}</span>
        <em v-if="a.twice">another has it too</em>
        <span v-for="n in a.names" :key="n" class="figure name">{{ n }}</span>
      </li>
    </ul>
  </template>
  <ReachLists v-if="data" :of="data" />
</template>

<style scoped>
.addresses {
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 8px;
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
button {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.name {
  flex-basis: 100%;
  font-size: 12px;
  color: var(--soft);
  overflow-wrap: anywhere;
}
em {
  font-style: normal;
  color: var(--red);
}
@media (max-width: 700px) {
  button {
    min-height: 44px;
  }
}
</style>
