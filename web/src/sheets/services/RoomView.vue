<script setup lang="ts">
// Whether there is room: what each host has given, what would come back, what would fit
// where, and where the guests of a host go when it is gone.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { inGB, memoryWords, useServices, type HostRow } from '../../work/useServices'
import { useShow } from '../../work/useShow'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { pick } = useShow()
const { running } = useServices()
const hosts = computed(() => (running.value?.hosts ?? []).filter((h) => h.runs !== 'plain'))

/** The host that is taken to be gone: the picked one, else the largest. */
const chosen = ref('')
const planned = ref(false)
const gone = computed(() => {
  const has = (id: string) => hosts.value.some((h) => h.id === id)
  return [chosen.value, work.deviceId, running.value?.largest?.id ?? '', hosts.value[0]?.id ?? ''].find((id) => id && has(id)) ?? ''
})
const { data: without } = useReport(() =>
  gone.value ? api('/api/v1/reports/without', { host: gone.value, planned: planned.value ? 'true' : 'false' }) : '',
)
const moves = computed(() => without.value?.moves ?? [])
const movesWords = (m: Schemas['MoveRow']) =>
  [m.makes_room ? `from ${m.from}, to make room` : '', m.by === 'itself' ? 'by itself' : 'by hand'].filter(Boolean).join(', ')

/** The size that room is looked for. */
const memory = ref('')
const vcpus = ref('')
const less = ref('')
const asked = computed(() => {
  const bytes = Math.round(Number(memory.value.replace(',', '.')) * 2 ** 30)
  const n = Math.round(Number(vcpus.value))
  const query: Record<string, string> = {}
  if (bytes > 0) query['memory_bytes'] = String(bytes)
  if (n > 0) query['vcpus'] = String(n)
  if (less.value) query['without'] = less.value
  return query
})
const { data: room, wrong } = useReport(() => (hosts.value.length ? api('/api/v1/reports/room_for', asked.value) : ''))
const mean = computed(() => running.value?.mean)
const fits = computed(() =>
  (room.value?.hosts ?? []).filter((h) => hosts.value.some((x) => x.id === h.id)).sort((a, b) => (b.how_many ?? -1) - (a.how_many ?? -1)),
)
const fitWords = (n: number | null) => (n === null ? '?' : n ? `${n} ${n === 1 ? 'fits' : 'fit'}` : 'none fits')
const cells = (h: HostRow) => [
  memoryWords(h.fitted_bytes),
  h.kept_bytes === undefined ? 'not said' : memoryWords(h.kept_bytes),
  `${h.unsaid ? '≥ ' : ''}${memoryWords(h.takes_bytes)}`,
  memoryWords(h.used_bytes),
]
watch(
  running,
  (now) => {
    const l = now?.largest
    emit('says', l ? `without ${l.name} ${l.starts} of ${l.of} start elsewhere` : '')
  },
  { immediate: true },
)
</script>

<template>
  <div class="paper-view" data-scroll>
    <p v-if="running && !hosts.length">
      Nothing runs guests yet. Write <code class="figure">anvil: runs hypervisor, keeps 6GB</code>, and how much memory is in it.
    </p>
    <template v-else-if="running">
      <section class="leaf">
        <h2>When a host is gone</h2>
        <div class="what">
          <label
            >Without
            <select
              class="field wide"
              :value="gone"
              aria-label="The host that is gone"
              @change="chosen = ($event.target as HTMLSelectElement).value">
              <option v-for="h in hosts" :key="h.id" :value="h.id">{{ h.name }}</option>
            </select>
          </label>
          <label><input v-model="planned" type="checkbox" /> on purpose, so that disks can be moved first</label>
          <b v-if="without" class="sum" role="status">{{
            without.of ? `${without.starts} of ${without.of} start elsewhere` : 'Nothing runs on it'
          }}</b>
        </div>
        <p v-if="without?.bound" class="soft">{{ without.bound }}.</p>
        <div v-if="without?.of" class="scroll">
          <table class="figures">
            <thead>
              <tr>
                <th>Guest</th>
                <th class="r">takes</th>
                <th>goes to</th>
                <th>how, or why not</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="m in moves" :key="m.guest_id">
                <td>
                  <button @click="work.pick(m.guest_id)">{{ m.guest }}</button> <small>{{ m.matters }}</small>
                </td>
                <td class="r figure">{{ memoryWords(m.takes_bytes) }}</td>
                <td>{{ m.to }}</td>
                <td>{{ movesWords(m) }}</td>
              </tr>
              <tr v-for="d in without.dark" :key="d.guest_id">
                <td>
                  <button @click="work.pick(d.guest_id)">{{ d.guest }}</button> <small>{{ d.matters }}</small>
                </td>
                <td />
                <td class="bad">stays dark</td>
                <td>{{ d.why }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section class="leaf">
        <h2>Would it fit</h2>
        <div class="what">
          <label
            >Memory, GB
            <input v-model="memory" class="field" inputmode="decimal" :placeholder="mean ? String(inGB(mean.memory_bytes)) : '4'"
          /></label>
          <label
            >vCPUs <input v-model="vcpus" class="field" inputmode="numeric" :placeholder="mean?.vcpus ? String(mean.vcpus) : '2'"
          /></label>
          <label
            >while
            <select v-model="less" class="field wide" aria-label="While a host is gone">
              <option value="">all hosts run</option>
              <option v-for="h in hosts" :key="h.id" :value="h.id">{{ h.name }} is gone</option>
            </select></label
          >
          <span v-if="!memory && !vcpus && mean" class="soft">one like the mean of those there are</span>
        </div>
        <p v-if="wrong" class="bad">{{ wrong }}</p>
        <ul class="fits" aria-label="Where it would fit">
          <li v-for="h in fits" :key="h.id" :class="{ no: h.how_many === 0 }">
            <b>{{ h.name }}</b> <span class="figure">{{ fitWords(h.how_many) }}</span>
            <small v-if="h.why">{{ h.why }}</small>
          </li>
        </ul>
      </section>
      <section class="leaf">
        <h2>Memory and cores, given of what is fitted</h2>
        <div class="scroll">
          <table class="figures">
            <thead>
              <tr>
                <th>Host</th>
                <th class="r">fitted</th>
                <th class="r">keeps</th>
                <th class="r">given</th>
                <th class="r">used</th>
                <th class="r">left</th>
                <th class="r">vCPUs</th>
                <th class="r">more like these</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="h in hosts" :key="h.id">
                <td>
                  <button @click="work.pick(h.id)">{{ h.name }}</button> <small>{{ h.cluster ? `in ${h.cluster}` : '' }}</small>
                </td>
                <td v-for="(c, i) in cells(h)" :key="i" class="r figure">{{ c }}</td>
                <td class="r figure" :class="{ bad: (h.left_bytes ?? 0) < 0 }">{{ memoryWords(h.left_bytes) }}</td>
                <td class="r figure">{{ h.vcpus ?? '?' }} on {{ h.threads ?? h.cores ?? '?' }}</td>
                <td class="r figure">{{ h.more_like_these ?? '?' }}</td>
              </tr>
              <tr v-for="c in running.clusters" :key="c.id" class="together">
                <td>
                  <button @click="pick({ kind: 'cluster', id: c.id })">
                    {{ c.name }}
                  </button>
                  <small>{{ c.hosts.join(', ') }}</small>
                </td>
                <td class="r figure">{{ memoryWords(c.fitted_bytes) }}</td>
                <td class="r figure">{{ memoryWords(c.kept_bytes) }}</td>
                <td class="r figure">{{ memoryWords(c.takes_bytes) }}</td>
                <td class="r figure">{{ memoryWords(c.used_bytes) }}</td>
                <td class="r figure">{{ memoryWords(c.left_bytes) }}</td>
                <td class="r figure">{{ c.vcpus ?? '?' }} on {{ c.cores ?? '?' }}</td>
                <td />
              </tr>
            </tbody>
          </table>
        </div>
      </section>
      <section v-if="running.claw_back.length" class="leaf">
        <h2>
          What could come back <span class="soft">given more than twice what they use; a quarter more than that is left to them</span>
        </h2>
        <ul class="fits">
          <li v-for="c in running.claw_back" :key="c.id">
            <button @click="work.pick(c.id)">{{ c.guest }}</button> <span class="figure">{{ memoryWords(c.back_bytes) }}</span>
            <small>on {{ c.host }}, uses {{ memoryWords(c.uses_bytes) }} of {{ memoryWords(c.given_bytes) }}</small>
          </li>
        </ul>
      </section>
    </template>
  </div>
</template>

<style scoped>
.paper-view .what .wide {
  width: auto;
}
.sum {
  margin-left: auto;
  font: 600 15px var(--names);
}
td button,
.fits button {
  font: 600 14px var(--names);
  text-align: left;
}
small {
  font-size: 13px;
  color: var(--soft);
}
.together td {
  background: var(--strip);
}
.fits {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 0 18px;
  padding: 0;
  margin: 4px 0 0;
  list-style: none;
}
.fits li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 8px;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.fits small {
  grid-column: 1 / -1;
}
.no .figure {
  color: var(--red);
}
@media (max-width: 700px) {
  td button,
  .fits button {
    min-height: 44px;
  }
}
</style>
