<script setup lang="ts">
// Where the copies of each dataset are, as strips from where it lives outwards, and what
// is lost with a pool, a device or the house.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Key, Schemas } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { title } from '../../lab/words'
import { ageWords, lostWords, sizeWords, useCopies, useStorage } from '../../work/useStorage'
import { useSome } from '../../work/useSome'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const { lab } = useLab()
const work = useWork()
const copies = useCopies()
const { stored, picked } = useStorage()
function show(key: Key) {
  work.deviceId = ''
  picked.value = key
  work.cardOpen = true
}
type Row = Schemas['CopiesRow']
type Held = Schemas['HeldRow']

const inside = ['same_pool', 'same_device', 'another_device', 'another_place']
const columns = [
  { title: 'in the house', of: (h: Held) => inside.includes(h.where) },
  { title: 'out of the house', of: (h: Held) => h.where === 'outside' },
]

const { some, more } = useSome(
  computed(() => copies.value?.datasets ?? []),
  20,
)
/** What is taken to be lost: its pool, its device, the house, or one thing by its key. */
const gone = ref('house')
const scopes = [
  { value: 'pool', text: 'its pool' },
  { value: 'device', text: 'its device' },
  { value: 'house', text: 'the house' },
]
const isScope = computed(() => scopes.some((s) => s.value === gone.value))
const { data: lost } = useReport(() => (isScope.value ? '' : api('/api/v1/reports/data_lost', { with: gone.value })))
const lostOf = computed(() => new Map((lost.value?.lost ?? []).map((l) => [l.id, l])))
interface Loss {
  words: string
  all: boolean
}
function lossOf(d: Row): Loss | undefined {
  if (isScope.value) {
    const part = d.lost_if[gone.value as keyof Row['lost_if']]
    return { words: lostWords(part), all: typeof part === 'string' }
  }
  const row = lostOf.value.get(d.id)
  return row && { words: row.words, all: row.all }
}
/** Single things that may go, by what they are called; of many drives each says so on its own card. */
const mostDrives = 200
const things = computed(() => {
  const l = lab.value
  if (!l) return []
  const on = new Set((stored.value?.pools ?? []).flatMap((p) => p.on_device_ids))
  const drives = (stored.value?.pools ?? []).flatMap((p) =>
    p.drives.flatMap((d) => (d.part_id ? [{ value: `part:${d.part_id}`, text: d.title }] : [])),
  )
  return [
    {
      title: 'A device',
      list: [...l.devices.values()].filter((d) => on.has(d.id)).map((d) => ({ value: `device:${d.id}`, text: title(d) })),
    },
    { title: 'A pool', list: (stored.value?.pools ?? []).map((p) => ({ value: `pool:${p.id}`, text: `${p.device}/${p.name}` })) },
    { title: 'A drive', list: drives.length > mostDrives ? [] : drives },
    { title: 'A place', list: [...l.places.values()].map((p) => ({ value: `place:${p.id}`, text: p.name })) },
  ].filter((g) => g.list.length)
})
function age(h: Held): string {
  if (h.now_h !== undefined) return ageWords(h.now_h)
  if (h.at_most_h !== undefined) return `≤ ${ageWords(h.at_most_h)}`
  return h.where === 'original' ? '' : '?'
}
const tells = (h: Held) =>
  [
    h.title,
    h.part && 'does not fit there: no copy',
    h.where === 'same_pool' && 'in the same pool: no copy',
    h.from && `made of the copy on ${h.from}`,
    h.often,
    h.by_hand && 'by hand',
    h.via && `via ${h.via}`,
    h.encryption,
    h.late && 'ran too long ago',
  ]
    .filter(Boolean)
    .join(', ')
const near: Partial<Record<Held['where'], string>> = { same_pool: 'same pool', same_device: 'same device', another_place: 'another place' }
const weak = (h: Held) => h.part || h.late || h.where === 'same_pool'
const pick = (h: Held) => (h.copy_id ? show({ kind: 'copy', id: h.copy_id }) : undefined)
watch(
  copies,
  (now) => {
    const all = (now?.datasets ?? []).filter((d) => d.worth !== 'toy')
    const fine = all.filter((d) => d.holds_321).length
    emit('says', all.length ? `${fine} of ${all.length} hold three copies, two devices, one out of the house` : '')
  },
  { immediate: true },
)
</script>

<template>
  <div class="paper-view copies" data-scroll>
    <p v-if="copies && !copies.datasets.length">
      No dataset is documented yet: <code class="figure">dataset "choir scores" on vault: 6TB, household</code>, and then where its copies
      go: <code class="figure">copy of "choir scores" to silo/hold: nightly</code>.
    </p>
    <template v-else-if="copies">
      <div class="what">
        <span class="soft">Without</span>
        <div class="segments" role="group" aria-label="What goes">
          <button v-for="s in scopes" :key="s.value" :aria-pressed="gone === s.value" @click="gone = s.value">{{ s.text }}</button>
        </div>
        <label
          >or
          <select
            :value="isScope ? '' : gone"
            aria-label="One thing that goes"
            @change="gone = ($event.target as HTMLSelectElement).value || 'house'">
            <option value="">one thing</option>
            <optgroup v-for="g in things" :key="g.title" :label="g.title">
              <option v-for="t in g.list" :key="t.value" :value="t.value">{{ t.text }}</option>
            </optgroup>
          </select>
        </label>
        <a class="plan" href="/api/v1/files/restore_plan.md" download>How to get it back</a>
      </div>
      <div class="scroll">
        <table class="strips">
          <thead>
            <tr>
              <th>Dataset</th>
              <th>where it lives</th>
              <th v-for="c in columns" :key="c.title">{{ c.title }}</th>
              <th>lost {{ isScope ? `with ${scopes.find((s) => s.value === gone)?.text}` : 'with that' }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="d in some" :key="d.id">
              <th scope="row">
                <button @click="show({ kind: 'dataset', id: d.id })">{{ d.name }}</button>
                <small>{{
                  [d.size_bytes === undefined ? 'size unknown' : sizeWords(d.size_bytes), d.worth].filter(Boolean).join(', ')
                }}</small>
              </th>
              <td>
                <span class="held home">{{ d.strip[0]?.title }}</span>
              </td>
              <td v-for="c in columns" :key="c.title" :class="{ joined: d.strip.filter(c.of).length }">
                <button
                  v-for="h in d.strip.filter(c.of)"
                  :key="h.copy_id"
                  class="held"
                  :class="{ weak: weak(h) }"
                  :title="tells(h)"
                  :aria-label="tells(h)"
                  @click="pick(h)">
                  <span
                    >{{ h.title }}<small v-if="near[h.where]">{{ near[h.where] }}</small></span
                  ><span class="figure">{{ h.part ? 'in part' : age(h) }}</span>
                </button>
                <span v-if="!d.strip.filter(c.of).length" class="held nowhere" :class="{ mild: d.worth === 'toy' }">nowhere</span>
              </td>
              <td>
                <span v-if="lossOf(d)" :class="{ bad: lossOf(d)?.all && d.worth !== 'toy' }">{{ lossOf(d)?.words }}</span>
                <span v-else class="soft">nothing</span>
                <small v-if="d.missing && d.worth !== 'toy'">{{ d.missing }}</small>
                <small v-else-if="d.holds_321">three copies, one out</small>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-if="more" :key="some.length" ref="end" class="soft">and {{ copies.datasets.length - some.length }} more</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.plan {
  margin-left: auto;
  color: var(--ink);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.strips {
  width: 100%;
  min-width: 640px;
  border-collapse: collapse;
}
thead th {
  padding: 2px 10px 4px 0;
  font: 500 13px var(--names);
  color: var(--soft);
  text-align: left;
}
tbody :is(th, td) {
  padding: 4px 12px 4px 0;
  vertical-align: top;
  text-align: left;
  border-top: 1px solid var(--hair);
}
tbody th button {
  font: 600 15px/1.2 var(--names);
  text-align: left;
}
small {
  display: block;
  font: 400 13px var(--sentences);
  color: var(--soft);
}
.held {
  display: flex;
  gap: 8px;
  align-items: center;
  justify-content: space-between;
  width: 100%;
  min-width: 118px;
  min-height: 26px;
  padding: 2px 8px;
  font: 500 14px var(--names);
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
}
.held + .held {
  margin-top: 4px;
}
.held .figure {
  font-size: 12px;
  white-space: nowrap;
}
.home {
  background: color-mix(in srgb, var(--water) 30%, var(--sheet));
}
td {
  position: relative;
}
.joined::before {
  position: absolute;
  top: 15px;
  left: -12px;
  width: 12px;
  content: '';
  border-top: 4px solid var(--water);
}
.weak {
  border-style: dashed;
  border-color: var(--red);
}
.nowhere {
  color: var(--red);
  background: none;
  border: 1px dashed var(--red);
}
.mild {
  color: var(--soft);
  border-color: var(--soft);
}
.bad {
  font: 500 14px var(--names);
  color: var(--red);
}
@media (max-width: 700px) {
  .held,
  tbody th button,
  .plan {
    min-height: 44px;
  }
}
</style>
