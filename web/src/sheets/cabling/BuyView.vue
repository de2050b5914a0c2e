<script setup lang="ts">
// Leads that are wanted, less what the spares bin has.
import { computed } from 'vue'
import { api } from '../../api/address'
import JacketMark from '../../draw/JacketMark.vue'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { kindName } from './choices'
import './lists.css'

const { lab } = useLab()
const { data } = useReport(() => api('/api/v1/reports/to_buy'))
const sum = computed(() => data.value?.wants.reduce((n, w) => n + w.buy, 0) ?? 0)
</script>

<template>
  <div class="list-room">
    <h2>{{ sum ? `${sum} to buy` : 'Nothing to buy' }}</h2>
    <table v-if="data?.wants.length" class="wants" aria-label="To buy">
      <thead>
        <tr>
          <th>Lead</th>
          <th>Colour</th>
          <th class="number">Length</th>
          <th class="number">Wanted</th>
          <th class="number">In the bin</th>
          <th class="number">To buy</th>
          <th>Why</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="w in data.wants" :key="[w.cable_kind, w.colour, w.length_m].join()">
          <td>{{ kindName(w.cable_kind) || 'which kind?' }}</td>
          <td><JacketMark v-if="w.hex" :hex="w.hex" />{{ w.colour ?? 'any' }}</td>
          <td class="number">
            <i v-if="w.length_m === undefined" class="unknown">?</i><template v-else>{{ w.length_m }} m</template>
          </td>
          <td class="number">{{ w.wanted }}</td>
          <td class="number">{{ w.spare }}</td>
          <td class="number">
            <b>{{ w.buy }}</b>
          </td>
          <td class="soft">{{ w.why.slice(0, 3).join('; ') }}{{ w.why.length > 3 ? ` and ${w.why.length - 3} more` : '' }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="soft">
      No lead is faulty or too short{{
        lab?.view.kind === 'draft' ? ', and the draft adds none' : '; look at a draft to see what it adds'
      }}.
    </p>
    <h2>In the spares bin</h2>
    <ul v-if="data?.bin.length">
      <li v-for="b in data.bin" :key="[b.cable_kind, b.colour, b.length_m].join()">
        <b class="figure">{{ b.count }}×</b>
        {{ [b.length_m && `${b.length_m} m`, b.colour, kindName(b.cable_kind)].filter(Boolean).join(' ') || 'a lead' }}
      </li>
    </ul>
    <p v-else class="soft">None. Add some with a line such as spare 5x lead 0.25m yellow cat6.</p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
}
@media (max-width: 700px) {
  /* What is to buy is what is left of these two. */
  .wants :is(th, td):is(:nth-child(4), :nth-child(5)) {
    display: none;
  }
}
</style>
