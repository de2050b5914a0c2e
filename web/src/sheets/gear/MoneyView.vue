<script setup lang="ts">
// What the gear cost, by year and by how it came into the house, what it goes
// on costing, and what ends soon.
import { computed } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { days } from '../../lab/words'
import { useShow } from '../../work/useShow'

const { data } = useReport(() => api('/api/v1/reports/money'))
const { showDevice } = useShow()

const years = computed(() => data.value?.spent ?? [])
const total = (s: Schemas['Spent']) => s.new_minor + s.used_minor + s.other_minor
const most = computed(() => Math.max(1, ...years.value.map(total)))
const parts = [
  { field: 'new_minor' as const, word: 'new' },
  { field: 'used_minor' as const, word: 'used' },
  { field: 'other_minor' as const, word: 'new or used unknown' },
]
const plot = { w: 460, h: 190, left: 8, foot: 24, top: 20 }
const bars = computed(() => {
  const step = (plot.w - plot.left) / Math.max(1, years.value.length)
  return years.value.map((s, i) => {
    let y = plot.h - plot.foot
    const pieces = parts.flatMap(({ field, word }) => {
      const high = (s[field] / most.value) * (plot.h - plot.foot - plot.top)
      if (!high) return []
      y -= high
      return [{ word, y, high }]
    })
    return { year: s.year ? `${s.year}` : 'year ?', x: plot.left + i * step + step * 0.18, w: step * 0.64, top: y, pieces, all: s.all }
  })
})
const whenWords = (e: Schemas['Ending']) =>
  e.days < 0
    ? `${-e.days} days ago`
    : e.days === 0
      ? 'today'
      : e.days === 1
        ? 'tomorrow'
        : e.days < 90
          ? `in ${e.days} days`
          : `in ${Math.round(e.days / 30.44)} months`
</script>

<template>
  <div v-if="data" class="money">
    <section>
      <h2>Spent</h2>
      <p>
        At least <b class="figure">{{ data.paid }}</b> was paid<template v-if="data.unpriced"
          >; {{ data.unpriced }} devices have no price</template
        ><template v-if="data.free">, {{ data.free }} were free</template>.
        <template v-if="data.yearly_minor || data.yearly_unknown">
          Licences and subscriptions come to {{ data.yearly_unknown ? 'at least ' : '' }}<b class="figure">{{ data.yearly }}</b> a
          year.</template
        >
      </p>
      <svg v-if="bars.length" :viewBox="`0 0 ${plot.w} ${plot.h}`" role="img" aria-label="Spent by year">
        <defs>
          <pattern id="used-hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width="6" height="6" class="ground" />
            <path d="M0 0v6" class="stroke" />
          </pattern>
        </defs>
        <path :d="`M0 ${plot.h - plot.foot + 0.5}h${plot.w}`" class="axis" />
        <g v-for="b in bars" :key="b.year">
          <rect v-for="p in b.pieces" :key="p.word" :x="b.x" :y="p.y" :width="b.w" :height="p.high" :class="p.word.split(' ')[0]">
            <title>{{ b.year }}, {{ p.word }}</title>
          </rect>
          <text :x="b.x + b.w / 2" :y="b.top - 5" text-anchor="middle" class="sum">{{ b.all }}</text>
          <text :x="b.x + b.w / 2" :y="plot.h - 7" text-anchor="middle">{{ b.year }}</text>
        </g>
      </svg>
      <p class="key"><i class="new" /> new <i class="used" /> used <i class="not" /> new or used unknown</p>
    </section>
    <section>
      <h2>Expiring</h2>
      <p v-if="!data.endings.length" class="soft">Nothing documented that expires: no warranty, return window, licence or battery.</p>
      <table v-else>
        <tbody>
          <tr v-for="e in data.endings" :key="e.record.id + e.what" :class="{ soon: e.days >= 0 && e.days < 31, over: e.days < 0 }">
            <td class="figure">{{ days(e.last) }}</td>
            <td>{{ whenWords(e) }}</td>
            <td>
              <button v-if="e.device_id" @click="showDevice(e.device_id)">{{ e.title }}</button><template v-else>{{ e.title }}</template>
            </td>
            <td>{{ e.what }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="data.endings.length"><a href="/api/v1/files/endings.ics" download>As a calendar file</a></p>
    </section>
  </div>
</template>

<style scoped>
.money {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 28px;
  flex: 1;
  min-height: 0;
  margin: 0 18px 10px;
  padding: 16px 20px;
  overflow-y: auto;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
svg {
  display: block;
  width: 100%;
  max-width: 560px;
  margin-top: 14px;
}
text {
  font: 400 12px var(--figures);
  fill: var(--soft);
}
text.sum {
  fill: var(--ink);
}
.axis {
  stroke: var(--ink);
}
rect.new {
  fill: var(--water);
}
rect.used {
  fill: url(#used-hatch);
  stroke: var(--water);
}
rect.not {
  fill: none;
  stroke: var(--water);
  stroke-dasharray: 3 2;
}
.ground {
  fill: var(--sheet);
}
.stroke {
  stroke: var(--water);
  stroke-width: 3;
}
.key {
  font-size: 13px;
  color: var(--soft);
}
.key i {
  display: inline-block;
  width: 12px;
  height: 10px;
  margin-left: 10px;
  border: 1px solid var(--water);
}
.key .new {
  background: var(--water);
}
.key .used {
  background: repeating-linear-gradient(45deg, var(--water) 0 2px, transparent 2px 4px);
}
.key .not {
  border-style: dashed;
}
table {
  width: 100%;
  margin: 6px 0 12px;
  border-collapse: collapse;
}
td {
  padding: 4px 10px 4px 0;
  border-bottom: 1px solid var(--rule);
}
td button {
  font: 600 14px var(--names);
}
.soon td:nth-child(2) {
  color: var(--red);
  font-weight: 600;
}
.over td {
  color: var(--soft);
}
a {
  color: var(--water);
}
@media (max-width: 900px) {
  .money {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
