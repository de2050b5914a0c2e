<script setup lang="ts">
// What is plugged into a device, how one gets at it, and how it comes out.
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import type { Device, Schemas } from '../api/client'
import JacketMark from '../draw/JacketMark.vue'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { useWork } from '../work/work'
import ReplaceDialog from './ReplaceDialog.vue'

const props = defineProps<{ device: Device }>()
const work = useWork()
const router = useRouter()
const { lab } = useLab()
const { data } = useReport(() => api('/api/v1/devices/{id}/trails', { id: props.device.id }))
const replacing = ref(false)
const plugged = computed(() => data.value?.jacks.filter((j) => j.cable_id) ?? [])
const level = computed(() => {
  const links = (data.value?.level ?? []).filter((l) => ['copper', 'cage', 'fibre'].includes(l.family))
  const used = links.reduce((n, l) => n + l.used, 0)
  const all = links.reduce((n, l) => n + l.used + l.free + (l.broken ?? 0) + (l.reserved ?? 0), 0)
  return all ? `${used} of ${all} ports in use` : `${plugged.value.length} plugged in`
})
const few = 6
const all = ref(false)
const way = (w: Schemas['WayIn']) =>
  ({
    console: `line ${w.input} of ${w.by}${w.tcp_port ? `, TCP ${w.tcp_port}` : ''}`,
    kvm: `input ${w.input} of ${w.by}`,
    video: `screen at ${w.by} ${w.input}`,
    management: `port ${w.input}${w.address ? `, ${w.address}` : ''}`,
  })[w.kind]
/** The sheet takes the place of the card, also on a phone. */
function takeOut() {
  work.cardOpen = false
  void router.push(`/pull/${props.device.id}`)
}
function show(j: Schemas['Jack']) {
  work.cardOpen = false
  work.port = { device_id: props.device.id, port: j.port, ...(j.rear ? { rear: true } : {}) }
  void router.push('/cabling')
}
</script>

<template>
  <section v-if="data && (plugged.length || data.jacks.length)" aria-label="Cables">
    <h2>Cables</h2>
    <p>{{ level }} · <router-link to="/cabling">trails ›</router-link></p>
    <ul class="things">
      <li v-for="j in all ? plugged : plugged.slice(0, few)" :key="j.port + j.rear">
        <button @click="show(j)" @pointerenter="work.lit = j.trail ?? ''" @pointerleave="work.lit = ''">
          <b><JacketMark :hex="j.hex" />{{ j.name || j.port }}{{ j.rear ? ' rear' : '' }}</b
          ><span class="soft">{{ j.to ?? '?' }}</span>
        </button>
      </li>
    </ul>
    <button v-if="plugged.length > few" class="more" @click="all = !all">{{ all ? 'Fewer' : `${plugged.length - few} more` }}</button>
    <template v-if="data.ways_in.length">
      <h2>Reached by</h2>
      <p v-for="w in data.ways_in" :key="w.kind + w.input">{{ way(w) }}</p>
    </template>
    <div v-if="plugged.length" class="buttons">
      <v-btn @click="takeOut">Take it out</v-btn>
      <v-btn v-if="lab?.view.kind !== 'past'" @click="replacing = true">Replace</v-btn>
    </div>
    <ReplaceDialog v-if="replacing" :device="device" @close="replacing = false" />
  </section>
</template>

<style scoped>
a {
  color: var(--water);
}
.more {
  padding: 4px 0;
  color: var(--water);
  text-decoration: underline;
}
</style>
