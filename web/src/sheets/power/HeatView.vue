<script setup lang="ts">
// The heat that racks and places give off, the air that takes it away, and how loud they
// are at rest and when all is busy.
import { ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { wattsWords } from '../../work/usePower'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const rise = ref('10')
const { data } = useReport(() =>
  api('/api/v1/reports/heat', Number(rise.value) >= 1 && Number(rise.value) <= 100 ? { rise: rise.value } : {}),
)
type Place = Schemas['HeatPlace']
const quietest = 20
const loudest = 70
/** Where a noise stands on the scale, in percent. */
const at = (db: number) => `${Math.max(0, Math.min(100, (100 * (db - quietest)) / (loudest - quietest)))}%`
const db = (p: Place, v?: number) => (v === undefined ? '?' : `${p.unheard ? '≥ ' : ''}${v.toFixed(0)}`)
const most = () => Math.max(1, ...(data.value?.places ?? []).map((p) => p.w ?? 0))
watch(
  data,
  (now) => {
    const first = now?.places[0]
    emit('says', first?.btu_h === undefined ? '' : `${first.name}: ${first.unknown ? '≥ ' : ''}${first.btu_h.toFixed(0)} BTU/h`)
  },
  { immediate: true },
)
</script>

<template>
  <div class="paper-view heat" data-scroll>
    <p v-if="data && !data.places.length">
      Nothing that stands anywhere is known to draw power or to make a noise: <code class="figure">anvil: 168W, 41dB, 48dB busy</code>.
    </p>
    <template v-else-if="data">
      <label class="soft"
        >air for a rise of <input v-model="rise" class="field figure" inputmode="decimal" aria-label="Rise, in kelvin" /> K</label
      >
      <div class="leaf scroll">
        <table class="figures">
          <thead>
            <tr>
              <th>Rack or place</th>
              <th class="plot" aria-hidden="true" />
              <th class="r">W</th>
              <th class="r">BTU/h</th>
              <th class="r">Air, m³/h</th>
              <th class="r">At rest, dB(A)</th>
              <th class="r">Busy</th>
              <th class="scale" aria-hidden="true">{{ quietest }} to {{ loudest }} dB(A)</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in data.places" :key="p.id">
              <th scope="row">
                {{ p.name }} <span class="soft">{{ p.kind === 'rack' ? 'rack' : '' }}{{ p.shut ? 'shut' : '' }}</span>
              </th>
              <td class="plot" aria-hidden="true"><i :style="{ width: `${(100 * (p.w ?? 0)) / most()}%` }" :class="{ shut: p.shut }" /></td>
              <td class="figure r">{{ wattsWords(p.w, p.unknown) }}</td>
              <td class="figure r">{{ wattsWords(p.btu_h, p.unknown) }}</td>
              <td class="figure r">{{ wattsWords(p.air_m3_h, p.unknown) }}</td>
              <td class="figure r" :class="{ bad: p.most_db !== undefined && (p.db_a ?? 0) > p.most_db }">{{ db(p, p.db_a) }}</td>
              <td class="figure r" :class="{ bad: p.most_db !== undefined && (p.busy_db_a ?? 0) > p.most_db }">{{ db(p, p.busy_db_a) }}</td>
              <td class="scale" aria-hidden="true">
                <div v-if="p.db_a !== undefined">
                  <i :style="{ left: at(p.db_a), right: `calc(100% - ${at(p.busy_db_a ?? p.db_a)})` }" />
                  <b v-if="p.most_db !== undefined" :style="{ left: at(p.most_db) }" />
                </div>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="soft">
        What is within another place is in both rows. ≥ where a draw or a noise is unknown; the bar of noise runs from rest to busy, the red
        stroke is what is too loud there.
      </p>
    </template>
  </div>
</template>

<style scoped>
.field {
  width: 60px;
}
.plot {
  width: 16%;
}
.plot i {
  display: block;
  height: 9px;
  background: var(--brass);
}
.plot i.shut {
  background: var(--red);
}
.scale {
  width: 20%;
}
.scale div {
  position: relative;
  height: 11px;
  background: var(--strip);
  border-radius: 2px;
}
.scale i,
.scale b {
  position: absolute;
  top: 2px;
  bottom: 2px;
  min-width: 4px;
  background: var(--water);
}
.scale b {
  top: -2px;
  bottom: -2px;
  min-width: 0;
  width: 2px;
  background: var(--red);
}
@media (max-width: 700px) {
  .plot,
  .scale {
    display: none;
  }
}
</style>
