<script setup lang="ts">
// Two to four things side by side, fact by fact, with what differs marked.
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../../api/address'
import { get, type Schemas } from '../../api/client'
import { capital, spaced } from '../../lab/words'

const props = defineProps<{ ids: string[] }>()
const emit = defineEmits<{ close: [] }>()
const cards = shallowRef<Schemas['Card'][]>([])
const only = ref(false)
onMounted(async () => (cards.value = await Promise.all(props.ids.map((id) => get(api('/api/v1/cards/devices/{id}', { id }))))))

const factsOf = (c: Schemas['Card']) => c.groups.flatMap((g) => g.facts)
interface Line {
  name: string
  cells: string[]
  differs: boolean
}
const lines = computed<Line[]>(() => {
  const first = cards.value[0]
  if (!first) return []
  const line = (name: string, cells: (string | undefined)[]): Line => ({
    name: capital(name),
    cells: cells.map((c) => spaced(c ?? '')),
    differs: new Set(cells.map((c) => c ?? '')).size > 1,
  })
  const sums = [...new Set(cards.value.flatMap((c) => (c.inside?.summary ?? []).map((s) => s.title)))].map((name) =>
    line(
      name,
      cards.value.map((c) => c.inside?.summary.find((s) => s.title === name)?.text),
    ),
  )
  const seats = [...new Set(cards.value.flatMap((c) => (c.inside?.seats ?? []).map((m) => m.title)))].map((name) =>
    line(
      `${name} free`,
      cards.value.map((c) => {
        const map = c.inside?.seats.find((m) => m.title === name)
        return map && `${map.seats.filter((s) => !s.part).length} of ${map.seats.length}`
      }),
    ),
  )
  const facts = factsOf(first).map((f) =>
    line(
      f.name,
      cards.value.map((c) => factsOf(c).find((o) => o.field === f.field)?.text),
    ),
  )
  return [...sums, ...seats, ...facts].filter((l) => l.cells.some(Boolean) && (!only.value || l.differs))
})
</script>

<template>
  <v-dialog :model-value="true" aria-label="Side by side" max-width="920" scrollable @update:model-value="emit('close')">
    <v-card>
      <v-card-title>Side by side</v-card-title>
      <v-card-text>
        <table>
          <thead>
            <tr>
              <td />
              <th v-for="c in cards" :key="c.record.id" scope="col">{{ c.record.title }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in lines" :key="l.name" :class="{ differs: l.differs }">
              <th scope="row">{{ l.name }}<span v-if="l.differs" class="mark" aria-label="differs">≠</span></th>
              <td v-for="(c, i) in l.cells" :key="i" class="figure">{{ c || '?' }}</td>
            </tr>
          </tbody>
        </table>
      </v-card-text>
      <v-card-actions>
        <v-btn :aria-pressed="only" @click="only = !only">{{ only ? 'All facts' : 'Only what differs' }}</v-btn>
        <v-spacer />
        <v-btn @click="emit('close')">Done</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
th,
td {
  padding: 4px 10px 4px 0;
  text-align: left;
  vertical-align: top;
  border-bottom: 1px solid var(--rule);
}
thead th {
  font: 600 16px var(--names);
}
tbody th {
  width: 200px;
  font-weight: 400;
  color: var(--soft);
}
.differs td {
  font-weight: 500;
  background: color-mix(in srgb, var(--sheet) 88%, var(--water));
}
.mark {
  float: right;
  padding-right: 8px;
  color: var(--red);
}
</style>
