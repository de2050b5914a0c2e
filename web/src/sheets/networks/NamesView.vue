<script setup lang="ts">
// Names: those of one's own and where they lead, those that follow from addresses, and
// what answers for them in each network.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import { useReport } from '../../lab/useReport'
import { attempt, useLab } from '../../lab/useLab'
import { useWork } from '../../work/work'
import '../cabling/lists.css'

const emit = defineEmits<{ says: [text: string] }>()
const { lab, send } = useLab()
const work = useWork()
const { data } = useReport(() => api('/api/v1/network/names'))
const past = computed(() => lab.value?.view.kind === 'past')
const filter = ref('')
const words = computed(() => filter.value.trim().toLowerCase())
const own = computed(() => (data.value?.own ?? []).filter((n) => n.whole.includes(words.value) || n.to.toLowerCase().includes(words.value)))
const hosts = computed(() =>
  (data.value?.hosts ?? []).filter((n) => `${n.name} ${n.address} ${n.title.toLowerCase()}`.includes(words.value)).slice(0, 400),
)
const astray = computed(() => (data.value?.own ?? []).filter((n) => n.end === 'circle' || n.end === 'nowhere').length)
watch(astray, (n) => emit('says', n ? `${n} ${n === 1 ? 'name leads' : 'names lead'} nowhere` : ''), { immediate: true })
const lost = (n: { end: string; to: string }) => n.end && !(n.to && n.end === 'away')
const ends: Record<string, string> = { circle: 'round in a circle', nowhere: 'nowhere', away: 'to somewhere outside' }

const name = ref('')
const to = ref('')
const quoted = (s: string) => `"${s.trim().replaceAll('"', '')}"`
const give = () =>
  attempt(async () => {
    await send('/api/v1/lines', { line: `name ${quoted(name.value)} -> ${quoted(to.value)}` })
    name.value = to.value = ''
  })
const remove = (id: string) => attempt(() => send('/api/v1/changes', { changes: [{ remove: { kind: 'name', id } }] }))
</script>

<template>
  <div class="list-room" data-scroll>
    <form v-if="!past" class="new" @submit.prevent="give">
      <input v-model="name" class="field" aria-label="Name" placeholder="library" required />
      <span aria-hidden="true">→</span>
      <input v-model="to" class="field" aria-label="Leads to" placeholder="device, address or name" required />
      <v-btn type="submit" size="small">Add the name</v-btn>
      <input v-model="filter" class="field find" type="search" aria-label="Find a name" placeholder="Find" />
    </form>
    <template v-if="own.length">
      <h2>Names of one's own</h2>
      <table aria-label="Names of one's own">
        <thead>
          <tr>
            <th>Name</th>
            <th>Leads to</th>
            <th>Address</th>
            <th />
          </tr>
        </thead>
        <tbody>
          <tr v-for="n in own" :key="n.id">
            <td class="figure">{{ n.whole }}</td>
            <td>
              <span v-if="lost(n)" :class="{ bad: n.end !== 'away' }">{{ [...n.through, ends[n.end]].join(' → ') }}</span>
              <span v-else>{{ [...n.through, n.to].filter(Boolean).join(' → ') }}</span>
            </td>
            <td class="figure">{{ n.addresses.join(', ') }}</td>
            <td><button v-if="!past" :aria-label="`Remove ${n.name}`" @click="remove(n.id)">remove</button></td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="data?.servers.length">
      <h2>What answers for names</h2>
      <table aria-label="What answers for names">
        <tbody>
          <tr v-for="s in data.servers" :key="s.in">
            <td class="in">{{ s.in }}</td>
            <td>
              <span v-if="s.devices.length">{{ s.devices.join(', then ') }}</span><i v-else class="unknown">not said</i>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <template v-if="data?.zones.length">
      <h2>For a name server</h2>
      <p class="files">
        <a href="/api/v1/files/hosts" download="hosts">hosts file</a>
        <a v-for="z in data.zones" :key="z" :href="`/api/v1/files/zones/${z}`" :download="`${z}.zone`" class="figure">{{ z }}</a>
      </p>
    </template>
    <template v-if="hosts.length">
      <h2>Names of devices</h2>
      <table aria-label="Names of devices">
        <tbody>
          <tr v-for="h in hosts" :key="h.name + h.address">
            <td class="figure">{{ h.name }}</td>
            <td>
              <button @click="work.pick(h.device_id)">{{ h.title }}</button>
            </td>
            <td class="figure">{{ h.address }}</td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-if="data && !data.hosts.length && !data.own.length" class="soft">
      Names follow from addresses: a device with one has its own name there. A subnet says what they end in:
      <code class="figure">subnet 10.20.0.0/24: names end in "home.arpa"</code>.
    </p>
  </div>
</template>

<style scoped>
.new {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
}
.new .field:nth-of-type(2) {
  width: 200px;
}
.find {
  width: 110px;
  margin-left: auto;
}
.in {
  width: 30%;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
td:first-child.figure,
td:last-child {
  white-space: nowrap;
}
.list-room td:last-child button {
  color: var(--soft);
}
@media (max-width: 700px) {
  .find {
    margin-left: 0;
  }
  td:first-child.figure {
    overflow-wrap: anywhere;
    white-space: normal;
  }
}
</style>
