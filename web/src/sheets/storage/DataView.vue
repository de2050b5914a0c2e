<script setup lang="ts">
// What is on the pools: each dataset with its size, and who mounts it as a share, over
// which VLAN and how fast that way is.
import { computed, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import type { Key, Schemas } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { sizeWords, useStorage } from '../../work/useStorage'
import { useSome } from '../../work/useSome'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const { lab } = useLab()
const work = useWork()
const router = useRouter()
const { stored, picked } = useStorage()
function show(key: Key) {
  work.deviceId = ''
  picked.value = key
  work.cardOpen = true
}
const { data } = useReport(() => api('/api/v1/reports/shares'))
const sharesOf = computed(() => {
  const by = new Map<string, Schemas['ShareRow'][]>()
  for (const s of data.value?.shares ?? []) by.set(s.dataset_id, [...(by.get(s.dataset_id) ?? []), s])
  return by
})
const datasets = computed(() => {
  const of = new Map((stored.value?.pools ?? []).flatMap((p) => p.datasets.map((d) => [d.id, { row: d, pool: p }] as const)))
  const rank = ['household', 'lab', undefined, 'toy']
  return [...(lab.value?.datasets.values() ?? [])]
    .map((d) => ({ d, ...of.get(d.id) }))
    .sort((a, b) => rank.indexOf(a.d.worth) - rank.indexOf(b.d.worth) || a.d.name.localeCompare(b.d.name, 'en'))
})
const { some, more } = useSome(datasets, 30)
const most = computed(() => Math.max(1, ...datasets.value.map((x) => x.row?.size_bytes ?? x.d.size_bytes ?? 0)))
const speed = (m: Schemas['MountRow']) => {
  if (m.why) return m.why
  if (m.speed_mb === undefined) return 'width unknown'
  const said = m.speed_mb >= 1000 ? `${m.speed_mb / 1000} Gb/s` : `${m.speed_mb} Mb/s`
  return m.at_most ? `at most ${said}` : said
}
const tells = (m: Schemas['MountRow']) =>
  [m.hops.join(' – '), m.held_by.length && `held by ${m.held_by.join(', ')}`].filter(Boolean).join('; ')
const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
const way = (s: Schemas['ShareRow'], m: Schemas['MountRow']) =>
  router.push({ path: '/networks/ways', query: { from: s.device_id, to: m.device_id } })
watch(
  [datasets, data],
  ([now, shared]) => emit('says', now.length && shared ? `${count(now.length, 'dataset')}, ${count(shared.shares.length, 'share')}` : ''),
  { immediate: true },
)
</script>

<template>
  <div class="paper-view" data-scroll>
    <p v-if="lab && !datasets.length">
      Nothing is said to be on a pool yet: <code class="figure">dataset "choir scores" on vault: 6TB, household, grows 50GB a month</code>,
      and who mounts it: <code class="figure">share "scores" of "choir scores" by smb to vesper, linnet</code>.
    </p>
    <div v-else class="leaf scroll">
      <table class="figures">
        <thead>
          <tr>
            <th>Dataset</th>
            <th>On</th>
            <th class="r">Size</th>
            <th class="plot" aria-hidden="true" />
            <th class="r">Grows a month</th>
            <th>Matters to</th>
            <th>Shared, and who mounts it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="{ d, row, pool } in some" :key="d.id">
            <th scope="row">
              <button @click="show({ kind: 'dataset', id: d.id })">{{ d.name }}</button>
              <small v-if="d.purpose">{{ d.purpose }}</small>
            </th>
            <td>{{ pool ? `${pool.device}/${pool.name}` : '' }}</td>
            <td class="figure r">
              {{ sizeWords(row?.size_bytes ?? d.size_bytes) }}
              <small v-if="row?.days_kept !== undefined">{{ Math.floor(row.days_kept) }} days of film</small>
            </td>
            <td class="plot" aria-hidden="true"><i :style="{ width: `${(100 * (row?.size_bytes ?? d.size_bytes ?? 0)) / most}%` }" /></td>
            <td class="figure r">{{ d.grows_bytes === undefined ? '?' : sizeWords(d.grows_bytes) }}</td>
            <td>{{ d.worth ?? '?' }}</td>
            <td>
              <div v-for="s in sharesOf.get(d.id) ?? []" :key="s.id" class="share">
                <button @click="show({ kind: 'share', id: s.id })">{{ s.name }}</button>
                <span class="soft">{{ [s.protocol, s.mounted_by && `by ${s.mounted_by}`].filter(Boolean).join(', ') }}</span>
                <ul>
                  <li v-for="m in s.mounts" :key="m.device_id">
                    <b>{{ m.device }}</b> {{ m.vlan === undefined ? (m.why ? '' : 'no VLAN known,') : `VLAN ${m.vlan},` }}
                    <button v-if="!m.why" class="figure way" :title="tells(m)" @click="way(s, m)">{{ speed(m) }}</button>
                    <span v-else class="bad">{{ m.why }}</span>
                  </li>
                </ul>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="more" :key="some.length" ref="end" class="soft">and {{ datasets.length - some.length }} more</p>
    </div>
  </div>
</template>

<style scoped>
td,
th {
  vertical-align: top;
}
small {
  display: block;
  font: 400 12px var(--sentences);
  color: var(--soft);
}
th button,
.share > button {
  font: 600 14px var(--names);
  text-align: left;
}
.plot {
  width: 12%;
}
.plot i {
  display: block;
  height: 9px;
  margin-top: 4px;
  background: var(--pale);
}
.share ul {
  list-style: none;
}
.share .soft {
  margin-left: 8px;
}
.way {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 3px;
}
@media (max-width: 700px) {
  .plot {
    display: none;
  }
  th button,
  .share button {
    min-height: 44px;
  }
}
</style>
