<script setup lang="ts">
// What switches give over the network, by class, against their budgets and their ports'
// limits.
import { watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { data } = useReport(() => api('/api/v1/reports/poe'))
const number = (w: number) => String(Math.round(w * 10) / 10)
const part = (s: Schemas['PowerSwitch']) => `${Math.min(100, (100 * s.given_w) / (s.budget_w ?? s.given_w ?? 1))}%`
function words(s: Schemas['PowerSwitch']): string {
  const given = `${s.unknown ? '≥ ' : ''}${number(s.given_w)}`
  if (s.budget_w === undefined) return `${given} W of an unknown budget`
  return `${given} of ${number(s.budget_w)} W by class${s.by_feed ? ', what it is fed itself' : ''}`
}
watch(
  data,
  (now) => emit('says', now?.switches.length ? `${now.switches.reduce((n, s) => n + s.ports.length, 0)} things fed over the network` : ''),
  { immediate: true },
)
</script>

<template>
  <div class="paper-view" data-scroll>
    <p v-if="data && !data.switches.length">
      Nothing gives power over the network yet: say which ports do, such as <code class="figure">24 ports rj45 1G poe at</code>, and the
      budget, <code class="figure">PoE budget 195W</code>.
    </p>
    <section class="leaf" v-for="s in data?.switches ?? []" :key="s.id" :aria-label="s.name">
      <h2>
        <button @click="work.pick(s.id)">{{ s.name }}</button>
        <span class="figure" :class="{ bad: s.over }">{{ words(s) }}</span>
        <span v-if="s.left_w !== undefined" class="soft">{{ number(s.left_w) }} W left</span>
        <span v-if="s.over" class="bad">{{ s.holds ? 'would hold by what they can draw at most' : 'does not hold' }}</span>
      </h2>
      <div v-if="s.ports.length" class="bar" aria-hidden="true">
        <i :style="{ width: part(s) }" :class="{ full: s.over, open: s.budget_w === undefined }" />
      </div>
      <table class="figures" v-if="s.ports.length">
        <thead>
          <tr>
            <th>Port</th>
            <th>Feeds</th>
            <th>Class</th>
            <th class="r">Takes by class</th>
            <th class="r">Port gives</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in s.ports" :key="p.port">
            <td class="figure">{{ p.port }}</td>
            <td>{{ p.to }}</td>
            <td>
              <template v-if="p.class !== undefined"
                >{{ p.class }}<span v-if="p.class_by_draw" class="soft"> by what it draws</span></template
              >
              <i v-else class="unknown">?</i>
            </td>
            <td class="figure r">{{ p.class_w === undefined ? '?' : `${number(p.class_w)} W` }}</td>
            <td class="figure r" :class="{ bad: p.over }">{{ p.limit_w === undefined ? '?' : `${number(p.limit_w)} W` }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else class="soft">Nothing hangs on it.</p>
    </section>
  </div>
</template>

<style scoped>
.bar {
  height: 8px;
  margin: 6px 0;
  background: var(--strip);
  border: 1px solid var(--soft);
  border-radius: 4px;
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--brass);
}
.bar i.full {
  background: var(--red);
}
.bar i.open {
  background: repeating-linear-gradient(45deg, var(--brass) 0 3px, transparent 3px 6px);
}
@media (max-width: 700px) {
  h2 button {
    min-height: 44px;
  }
}
</style>
