<script setup lang="ts">
// Which VLANs reach a device and at which ports, and what else it is part of.
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import { useReport } from '../lab/useReport'
import { widthWords } from '../lab/ways'
import { useNetwork, vlanKey } from '../work/useNetwork'
import { useWay } from '../work/useWay'
import { inRanges } from '../sheets/networks/ports'
import type { Schemas } from '../api/client'

const props = defineProps<{ device: string }>()
const { data } = useReport(() => api('/api/v1/devices/{id}/network', { id: props.device }))
const { lit } = useNetwork(() => false)
const router = useRouter()
const { ask } = useWay()
function way(to: string) {
  ask({ from: props.device, to, vlan: 0 })
  void router.push('/networks/ways')
}
function show(v: Schemas['PartVLAN']) {
  lit.value = vlanKey(v)
  void router.push('/networks')
}
const where = (v: Schemas['PartVLAN']) =>
  [v.untagged.length && `${inRanges(v.untagged)} untagged`, v.tagged.length && `${inRanges(v.tagged)} tagged`].filter(Boolean).join('; ')
</script>

<template>
  <template v-if="data && (data.vlans.length || data.says.length || data.ways.length)">
    <h2>Networks</h2>
    <ul class="vlans">
      <li v-for="v in data.vlans" :key="vlanKey(v)">
        <button @click="show(v)">
          <svg width="12" height="12" aria-hidden="true"><rect width="12" height="12" :fill="v.hex" /></svg>
          <span class="figure">{{ v.number }}</span> <b>{{ v.name }}</b>
        </button>
        <span class="soft">{{ where(v) }}</span>
        <em v-if="v.cut_off">cut off</em>
      </li>
    </ul>
    <p v-if="data.ways.length" class="ways">
      <button v-for="w in data.ways" :key="w.to_id" title="Show this way" @click="way(w.to_id)">
        to <b>{{ w.title }}</b><span class="figure">{{ widthWords(w) }}</span>
      </button>
      <button class="soft" @click="way('')">to another…</button>
    </p>
    <p v-if="data.cuts_off">If it is lost, {{ data.cuts_off === 1 ? 'one other device is' : `${data.cuts_off} others are` }} cut off.</p>
    <p v-for="s in data.says" :key="s">{{ s }}</p>
  </template>
</template>

<style scoped>
.vlans {
  list-style: none;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 8px;
  padding: 2px 0;
  border-bottom: 1px solid var(--rule);
}
button {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
b {
  font: 600 14px var(--names);
}
button:hover b {
  color: var(--red);
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 6px 0;
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
