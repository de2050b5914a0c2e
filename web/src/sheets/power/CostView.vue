<script setup lang="ts">
// What a month of power costs: by the hour of the day, by device, rack and circuit; what
// being off at night or retired would save; what would make it cost a given sum.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const from = ref('23:00')
const to = ref('07:00')
const aim = ref('')
const clock = /^([01]?\d|2[0-3]):[0-5]\d$/
const asked = computed(() => ({
  ...(clock.test(from.value) && clock.test(to.value) && from.value !== to.value ? { off: `${from.value}-${to.value}` } : {}),
  ...(aim.value.trim() && Number(aim.value) >= 0 ? { aim: aim.value.trim() } : {}),
}))
const { data } = useReport(() => api('/api/v1/reports/cost', asked.value))
const by = ref<'devices' | 'places' | 'circuits'>('devices')
const groups = [
  { value: 'devices', text: 'By device' },
  { value: 'places', text: 'By rack and place' },
  { value: 'circuits', text: 'By circuit' },
] as const

const money = (v?: number) => (v === undefined ? '?' : v.toFixed(2))
const span = (least?: number, most?: number) =>
  least !== undefined && most !== undefined && most - least >= 0.005 ? `${money(least)} to ${money(most)}` : money(least)
type Row = {
  key: string
  id?: string
  name: string
  kwh?: number
  least?: number
  most?: number
  at_least?: boolean
  year?: number
  off?: number
}
const rows = computed<Row[]>(() => {
  if (!data.value) return []
  if (by.value === 'devices')
    return data.value.devices.map((d: Schemas['DeviceCost']) => ({
      key: d.id,
      id: d.id,
      name: d.name,
      kwh: d.kwh_month,
      least: d.cost_month,
      most: d.cost_month_most,
      at_least: d.at_least,
      year: d.cost_year,
      off: d.off_saves_year,
    }))
  return data.value[by.value].map((g: Schemas['GroupCost']) => ({
    key: g.name,
    name: g.name || (by.value === 'circuits' ? 'on no circuit that is known' : 'nowhere yet'),
    kwh: g.kwh_month,
    least: g.cost_month,
    most: g.cost_month_most,
    at_least: g.at_least,
  }))
})
const most = computed(() => Math.max(1e-9, ...rows.value.map((r) => r.kwh ?? 0)))
const top = computed(() => Math.max(1, ...(data.value?.hours ?? []).map((h) => h.w)))
const prices = computed(() => (data.value?.hours ?? []).flatMap((h) => (h.price === undefined ? [] : [h.price])))
const dear = computed(() => Math.max(...prices.value))
const cheap = computed(() => prices.value.length > 0 && Math.min(...prices.value) < dear.value)
watch(
  data,
  (now) => {
    const said = now && `${now.at_least ? '≥ ' : ''}${now.kwh_month.toFixed(0)} kWh a month`
    emit(
      'says',
      now && said
        ? now.cost_month === undefined
          ? said
          : `${said}, ${span(now.cost_month, now.cost_month_most)} ${now.currency ?? ''}`
        : '',
    )
  },
  { immediate: true },
)
</script>

<template>
  <div class="paper-view cost" data-scroll>
    <p v-if="data && data.cost_month === undefined">
      No price is said yet: <code class="figure">lab: price 0.31 a kWh, price 0.12 a kWh 00:30-05:30, standing 0.61 a day</code>.
    </p>
    <section class="leaf" v-if="data" aria-label="The month">
      <h2>
        A month
        <b v-if="data.cost_month !== undefined" class="figure"
          >{{ data.at_least ? '≥ ' : '' }}{{ span(data.cost_month, data.cost_month_most) }} {{ data.currency }}</b
        >
        <span class="figure">{{ data.at_least ? '≥ ' : '' }}{{ data.kwh_month.toFixed(1) }} kWh</span>
        <span v-if="data.standing_month !== undefined" class="soft">{{ money(data.standing_month) }} of it standing charge</span>
        <span v-if="data.cost_year !== undefined" class="soft">a year {{ money(data.cost_year) }}</span>
      </h2>
      <div class="hours" role="img" aria-label="What it draws in each hour of the day">
        <i
          v-for="(h, i) in data.hours"
          :key="i"
          :style="{ height: `${(100 * h.w) / top}%` }"
          :class="{ cheap: cheap && h.price !== undefined && h.price < dear }"
          :title="`${i}:00, ${Math.round(h.w)} W${h.price === undefined ? '' : `, ${h.price.toFixed(4)} a kWh`}`" />
      </div>
      <div class="clock figure" aria-hidden="true">
        <span v-for="h in [0, 6, 12, 18, 24]" :key="h">{{ h }}</span>
      </div>
      <p v-if="cheap" class="soft"><i class="key cheap" /> cheaper hours, up to {{ Math.round(top) }} W</p>
      <p class="what">
        <label>to cost <input v-model="aim" class="field figure" inputmode="decimal" aria-label="What a month is to cost" /> a month</label>
        <span v-if="data.aim_price !== undefined"
          >a kWh would be <b class="figure">{{ data.aim_price.toFixed(4) }}</b></span
        >
        <span v-if="data.aim_hours !== undefined"
          >or all of it on <b class="figure">{{ data.aim_hours.toFixed(1) }} h</b> a day</span
        >
        <span v-if="asked.aim && data.aim_price === undefined" class="soft">not even the standing charge fits into that</span>
      </p>
    </section>
    <div class="what">
      <div class="segments" role="group" aria-label="Which sums">
        <button v-for="g in groups" :key="g.value" :aria-pressed="by === g.value" @click="by = g.value">{{ g.text }}</button>
      </div>
      <label v-if="by === 'devices'"
        >off from <input v-model="from" class="field figure" aria-label="Off from" /> to
        <input v-model="to" class="field figure" aria-label="Off until" />
      </label>
    </div>
    <div class="leaf scroll">
      <table class="figures" v-if="rows.length">
        <thead>
          <tr>
            <th>{{ by === 'devices' ? 'Device' : by === 'places' ? 'Rack or place' : 'Circuit' }}</th>
            <th class="plot" aria-hidden="true" />
            <th class="r">kWh a month</th>
            <th class="r">A month</th>
            <th v-if="by === 'devices'" class="r">A year without it saves</th>
            <th v-if="by === 'devices'" class="r">Off at night saves</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.key">
            <th scope="row">
              <button v-if="r.id" @click="work.pick(r.id)">{{ r.name }}</button><template v-else>{{ r.name }}</template>
            </th>
            <td class="plot" aria-hidden="true"><i :style="{ width: `${(100 * (r.kwh ?? 0)) / most}%` }" /></td>
            <td class="figure r">{{ r.kwh === undefined ? '?' : `${r.at_least ? '≥ ' : ''}${r.kwh.toFixed(1)}` }}</td>
            <td class="figure r">{{ span(r.least, r.most) }}</td>
            <td v-if="by === 'devices'" class="figure r">{{ money(r.year) }}</td>
            <td v-if="by === 'devices'" class="figure r">{{ r.off === undefined ? '' : money(r.off) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.hours {
  display: flex;
  gap: 2px;
  align-items: flex-end;
  height: 88px;
  margin-top: 8px;
  border-bottom: 1px solid var(--soft);
}
.hours i {
  flex: 1;
  background: var(--brass);
}
.hours i.cheap,
.key.cheap {
  background: repeating-linear-gradient(45deg, var(--water) 0 3px, var(--pale) 3px 6px);
}
.key {
  display: inline-block;
  width: 14px;
  height: 10px;
}
.clock {
  display: flex;
  justify-content: space-between;
  font-size: 12px;
  color: var(--soft);
}
.plot {
  width: 22%;
}
.plot i {
  display: block;
  height: 9px;
  background: var(--brass);
}
@media (max-width: 700px) {
  .plot {
    display: none;
  }
  th button {
    min-height: 44px;
  }
}
</style>
