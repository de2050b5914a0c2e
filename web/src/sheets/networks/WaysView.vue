<script setup lang="ts">
// The widest way between two devices: its hops, what holds it down, what stands by.
import { computed, watch } from 'vue'
import { useRouter } from 'vue-router'
import { waySays, widthWords } from '../../lab/ways'
import { useNetwork } from '../../work/useNetwork'
import { useWay, useWayFound } from '../../work/useWay'
import { useWork } from '../../work/work'
import HopTrails from './HopTrails.vue'
import WayStrip from './WayStrip.vue'
import { useTrail } from './useTrail'
import '../cabling/lists.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const router = useRouter()
const { map, vlans } = useNetwork()
const { asked, ask, between } = useWay()
const { way, wrong } = useWayFound()
const { showTrail } = useTrail()
if (!asked.from && work.deviceId) asked.from = work.deviceId

/** What is linked to something; the others lead nowhere. */
const devices = computed(() =>
  [...(map.value?.nodes ?? [])]
    .sort((a, b) => a.title.localeCompare(b.title, 'en', { numeric: true }))
    .map((n) => ({ title: n.title, value: n.id, props: { subtitle: [n.kind, n.place].filter(Boolean).join(', ') } })),
)
const numbers = computed(() => [
  { title: 'over all links', value: 0 },
  ...[...new Map(vlans.value.map((v) => [v.number, { title: `VLAN ${v.number} ${v.name ?? ''}`.trim(), value: v.number }])).values()],
])
const says = computed(() => (way.value ? waySays(way.value) : []))
watch(way, (now) => emit('says', now ? `${now.from} to ${now.to}: ${widthWords(now)}` : ''), { immediate: true })
function turn() {
  ask({ from: asked.to, to: asked.from })
}
</script>

<template>
  <div class="list-room" data-scroll>
    <div class="between">
      <v-autocomplete v-model="asked.from" :items="devices" label="From" density="compact" hide-details auto-select-first />
      <v-btn icon variant="text" size="small" title="The other way round" aria-label="The other way round" @click="turn">⇄</v-btn>
      <v-autocomplete v-model="asked.to" :items="devices" label="To" density="compact" hide-details auto-select-first />
      <v-select v-model="asked.vlan" :items="numbers" label="Which links" density="compact" hide-details />
    </div>
    <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    <template v-else-if="way && between">
      <h2>
        {{ way.from }} to {{ way.to }}: <b class="figure" :class="{ bad: way.why }">{{ widthWords(way) }}</b>
      </h2>
      <WayStrip v-if="way.hops.length" :way="way" class="strip" @pick="work.pick($event)" @cable="showTrail" />
      <ul>
        <li v-for="s in says" :key="s">{{ s }}</li>
      </ul>
      <p v-if="way.hops.length" class="soft">
        {{ way.hops.length - 1 }} {{ way.hops.length === 2 ? 'hop' : 'hops' }},
        {{
          way.unmeasured
            ? way.length_m
              ? `at least ${Math.round(way.length_m * 10) / 10} m of cable`
              : 'length unknown'
            : `${Math.round(way.length_m * 10) / 10} m of cable`
        }}. <button class="line" @click="router.push('/networks')">Show it on the map</button>
      </p>
      <HopTrails :way="way" class="over" @cable="showTrail" />
    </template>
    <p v-else class="soft">
      {{
        map && !map.nodes.length
          ? 'No links yet. Type what is plugged into what, such as core/1 - loft switch/1.'
          : 'Choose two devices to see how wide the way between them is, and what holds it down.'
      }}
    </p>
  </div>
</template>

<style scoped>
.between {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto minmax(0, 1fr) minmax(0, 1fr);
  gap: 10px;
  align-items: center;
  max-width: 900px;
  margin-bottom: 18px;
}
.strip {
  margin: 14px 0;
}
ul {
  margin: 0 0 8px;
  list-style: none;
}
li {
  padding: 1px 0;
}
.over {
  margin-top: 22px;
}
.line {
  text-decoration: underline;
  text-underline-offset: 3px;
}
@media (max-width: 700px) {
  .between {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  .line {
    min-height: 44px;
  }
}
</style>
