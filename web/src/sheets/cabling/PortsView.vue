<script setup lang="ts">
// Used and free ports by connector, speed and PoE, and where something fast
// could still be plugged in.
import { computed, ref } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { speedWords } from '../../lab/trails'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import './lists.css'

const work = useWork()
const { data } = useReport(() => api('/api/v1/reports/ports'))
const speed = ref(10000)
const speeds = [1000, 2500, 5000, 10000, 25000]
const { data: free } = useReport(() => api('/api/v1/reports/openings', { speed_mb: `${speed.value}` }))
const words = (mb?: number) => (mb ? speedWords(mb) : '')
const said = (s: Schemas['Speed']) => (s.mb === undefined ? '?' : s.mb === 0 ? 'nothing' : `${s.at_most ? 'at most ' : ''}${words(s.mb)}`)
/** Alike ones together: what gives all of it first. */
const groups = computed(() => {
  const by = new Map<string, Schemas['FreePort'][]>()
  for (const o of free.value?.openings ?? []) {
    const key = said(o.speed)
    by.set(key, [...(by.get(key) ?? []), o])
  }
  return [...by]
})
const best = computed(() => Math.max(0, ...(free.value?.openings ?? []).map((o) => o.speed.mb ?? 0)))
const tables = computed(() =>
  data.value ? [{ name: 'The whole lab', level: data.value.lab }, ...data.value.racks.map((r) => ({ name: r.name, level: r.level }))] : [],
)
const sort = (l: Schemas['PortLevel']) =>
  [l.name, l.joint ? 'in panels and plates' : '', words(l.speed_mb), l.poe_out_type ? `PoE type ${l.poe_out_type}` : '']
    .filter(Boolean)
    .join(', ')
function show(o: Schemas['FreePort']) {
  work.pick(o.device_id)
  work.port = { device_id: o.device_id, port: o.port, ...(o.rear ? { rear: true } : {}) }
}
</script>

<template>
  <div class="list-room ports">
    <section>
      <h2>
        Where could a device be plugged in that does
        <select v-model="speed" class="field" aria-label="Speed">
          <option v-for="s in speeds" :key="s" :value="s">{{ words(s) }}</option>
        </select>
      </h2>
      <p v-if="free && groups.length && best < speed" class="soft">No free port does {{ words(speed) }}. The best there is:</p>
      <template v-for="[at, list] in groups" :key="at">
        <h3>{{ at }}</h3>
        <ul>
          <li v-for="o in list.slice(0, 24)" :key="o.title">
            <button @click="show(o)">
              <b class="figure">{{ o.title }}</b>
            </button>
            <span class="soft">{{
              [o.to && `leads to ${o.to}`, o.where, o.poe_out_type && `PoE type ${o.poe_out_type}`].filter(Boolean).join(', ')
            }}</span>
          </li>
        </ul>
        <p v-if="list.length > 24" class="soft">and {{ list.length - 24 }} more</p>
      </template>
      <p v-if="free && !groups.length" class="soft">No switch has a free port.</p>
    </section>
    <section>
      <template v-for="t in tables" :key="t.name">
        <h2>{{ t.name }}</h2>
        <table :aria-label="t.name">
          <thead>
            <tr>
              <th>Ports</th>
              <th class="number">Used</th>
              <th class="number">Free</th>
              <th class="number">Reserved</th>
              <th class="number">Broken</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in t.level" :key="sort(l)">
              <td>{{ sort(l) }}</td>
              <td class="number">{{ l.used }}</td>
              <td class="number">{{ l.free }}</td>
              <td class="number">{{ l.reserved || '' }}</td>
              <td class="number bad">{{ l.broken || '' }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </section>
  </div>
</template>

<style scoped>
.ports {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 1fr));
  gap: 28px;
}
h3 {
  margin-top: 8px;
  font-size: 14px;
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
  list-style: none;
}
li {
  padding: 2px 0;
}
</style>
