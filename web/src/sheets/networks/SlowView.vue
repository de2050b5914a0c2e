<script setup lang="ts">
// Links that run below what one of their ends or their cables could do, with the
// cheapest fix; what wins most is first.
import { computed, watch } from 'vue'
import { api } from '../../api/address'
import { speedWords } from '../../lab/trails'
import { useReport } from '../../lab/useReport'
import { useTrail } from './useTrail'
import '../cabling/lists.css'

const emit = defineEmits<{ says: [text: string] }>()
const { showTrail } = useTrail()
const { data } = useReport(() => api('/api/v1/reports/slow'))
const groups = computed(() =>
  [
    { name: 'One change away', rows: (data.value?.slow ?? []).filter((s) => !s.lacks) },
    { name: 'Only with another port or cable', rows: (data.value?.slow ?? []).filter((s) => s.lacks) },
  ].filter((g) => g.rows.length),
)
watch(
  data,
  (now) => emit('says', now?.slow.length ? `${now.slow.length} ${now.slow.length === 1 ? 'link' : 'links'} could be faster` : ''),
  { immediate: true },
)
</script>

<template>
  <div class="list-room" data-scroll>
    <template v-for="g in groups" :key="g.name">
      <h2>{{ g.name }}</h2>
      <table :aria-label="g.name">
        <thead>
          <tr>
            <th>Link</th>
            <th class="number">Now</th>
            <th class="number">Could be</th>
            <th>Cheapest fix</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in g.rows" :key="s.link + s.fix">
            <td>
              <button @click="showTrail(s.cable_id)">{{ s.link }}</button>
            </td>
            <td class="number">{{ speedWords(s.now_mb) }}</td>
            <td class="number">
              <b>{{ speedWords(s.could_mb) }}</b>
            </td>
            <td>{{ s.fix }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-if="data && !groups.length" class="soft">
      No link is known to run below what its ends and cables could do. Speeds that nobody wrote down are not judged.
    </p>
  </div>
</template>

<style scoped>
th.number,
td.number {
  width: 110px;
}
td:first-child {
  width: 30%;
}
@media (max-width: 700px) {
  td button {
    min-height: 44px;
  }
  /* The fix has a line of its own. */
  tr {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    align-items: center;
    border-bottom: 1px solid var(--rule);
  }
  th:last-child {
    display: none;
  }
  td:last-child {
    grid-column: 1 / -1;
  }
  .list-room :is(th, td) {
    width: auto;
    border: 0;
  }
  :is(th, td).number {
    width: 96px;
    padding-right: 4px;
  }
}
</style>
