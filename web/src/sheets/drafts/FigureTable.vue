<script setup lang="ts">
// The figures of some labs beside each other, with what each has more or less
// than the first.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'

const props = defineProps<{
  /** What the figures are of. */
  of?: string
  sides: { name: string; says: Schemas['Comparison']['to'] }[]
}>()

const rows = computed(() =>
  (props.sides[0]?.says.words ?? []).map((first, i) => ({
    ...first,
    values: props.sides.map(({ says }) => {
      const is = says.words[i] ?? first
      const by = Math.round((is.value - first.value) * 10) / 10
      return { text: is.text, by, looks: by * (first.better ?? 0) > 0 ? 'better' : by && first.better ? 'worse' : '' }
    }),
  })),
)
const priced = computed(() => props.sides.some((s) => s.says.cost))
const signed = (n: number) => (n > 0 ? `▲ +${n}` : `▼ −${-n}`)
</script>

<template>
  <table aria-label="Figures">
    <thead>
      <tr>
        <td class="soft">{{ of }}</td>
        <th v-for="s in sides" :key="s.name" scope="col" colspan="2">{{ s.name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="f in rows" :key="f.name">
        <th scope="row">{{ f.title }}</th>
        <template v-for="(v, i) in f.values" :key="i"
          ><td class="figure">{{ v.text }}</td>
          <td class="figure by" :class="v.looks">{{ i && v.by ? signed(v.by) : '' }}</td></template
        >
      </tr>
      <tr v-if="priced">
        <th scope="row">Money</th>
        <template v-for="s in sides" :key="s.name"
          ><td class="figure">{{ s.says.cost?.all ?? '–' }}</td>
          <td
        /></template>
      </tr>
      <tr v-if="sides.some((s) => s.says.payback_months)">
        <th scope="row">Saved again in</th>
        <template v-for="s in sides" :key="s.name"
          ><td class="figure">{{ s.says.payback_months ? `${Math.ceil(s.says.payback_months)} months` : '–' }}</td>
          <td
        /></template>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  margin: 4px 0 6px;
  font-size: 14px;
}
thead th {
  text-align: left;
  font: 600 14px var(--names);
}
tbody th {
  text-align: left;
  font-weight: 400;
  color: var(--soft);
  padding-right: 18px;
  white-space: nowrap;
}
tbody th,
tbody td {
  padding-top: 2px;
  padding-bottom: 2px;
  border-bottom: 1px solid var(--rule);
}
td.figure {
  padding-right: 14px;
  white-space: nowrap;
}
.by {
  color: var(--soft);
}
.better {
  color: var(--moss);
}
.worse {
  color: var(--red);
}
@media (max-width: 700px) {
  table {
    font-size: 13px;
  }
  tbody th {
    padding-right: 6px;
    white-space: normal;
  }
  td.figure {
    padding-right: 5px;
    font-size: 12px;
    white-space: normal;
  }
}
</style>
