<script setup lang="ts">
// How one gets there: a request from a reader's place to what answers, where it is stopped
// and what lets it through; and every service by every place.
import { computed, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { useRequest } from '../../work/useRequest'
import { useWay } from '../../work/useWay'
import ReachedMark from './ReachedMark.vue'
import RequestStrip from './RequestStrip.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const { lab, send } = useLab()
const router = useRouter()
const asked = useRequest()
const { ask } = useWay()
const past = computed(() => lab.value?.view.kind === 'past')
const { data: table } = useReport(() => api('/api/v1/reports/reached'))

const kinds: Record<string, string> = {
  vlan: 'VLAN',
  subnet: 'network',
  wireless_network: 'wireless',
  remote_access: 'remote access',
  internet: 'from anywhere outside',
}
const places = computed(() => [
  ...(table.value?.places ?? []).map((p) => ({ title: p.title, value: p.from, props: { subtitle: kinds[p.kind] } })),
  ...[...(lab.value?.devices.values() ?? [])]
    .map((d) => ({ title: d.name ?? '', value: `device:${d.id}`, props: { subtitle: 'at this device' } }))
    .filter((d) => d.title)
    .sort((a, b) => a.title.localeCompare(b.title, 'en', { numeric: true })),
])
const targets = computed(() => [
  ...(table.value?.names ?? []).map((n) => ({ title: n, value: n, props: { subtitle: 'name' } })),
  ...(table.value?.services ?? []).map((s) => ({ title: s.name, value: s.id, props: { subtitle: 'service, at its own address' } })),
])
// At first the first of the household's that has a name, from where visitors are.
watch(
  table,
  (now) => {
    if (!now || (asked.from && asked.to)) return
    const named = now.services.find((s) => s.names.length && s.worth === 'household') ?? now.services[0]
    const from = now.places.filter((p) => p.kind === 'wireless_network').pop() ?? now.places[0]
    if (named && from) Object.assign(asked, { from: from.from, to: named.names[0] ?? named.id })
  },
  { immediate: true },
)
/** A wireless network has no column of its own: from there one reaches what one reaches from its VLAN. */
const none: Schemas['ReachedCell'] = { arrives: false, to: '' }
const columns = computed(() =>
  (table.value?.places ?? [])
    .map((p, at) => ({
      ...p,
      cell: (s: Schemas['ReachedService']) => s.cells[at] ?? none,
      over: (table.value?.places ?? []).filter((w) => w.in === p.from).map((w) => w.title),
    }))
    .filter((p) => !p.in),
)
const { data: way, wrong } = useReport(() => (asked.from && asked.to ? api('/api/v1/request', { from: asked.from, to: asked.to }) : ''))

const open = computed(() => {
  const at = (table.value?.places ?? []).findIndex((p) => p.kind === 'internet')
  return (table.value?.services ?? []).filter((s) => s.cells[at]?.arrives && s.cells[at].sign_in !== 'asked')
})
watch(
  [way, open],
  () => {
    const outside = open.value.length ? `${open.value.map((s) => s.name).join(', ')}: reached from outside without a sign-in` : ''
    emit('says', outside || (way.value && !way.value.arrives && way.value.why ? `stopped before ${way.value.stops_at}` : ''))
  },
  { immediate: true },
)

const ways: Record<string, string> = { asked: 'behind a sign-in', none: 'without a sign-in' }
type Column = (typeof columns.value)[number]
function says(s: Schemas['ReachedService'], p: Column) {
  const c = p.cell(s)
  if (!c.arrives) return `${s.name} from ${p.title}: not reached. ${c.why ?? ''}`
  const signIn = c.sign_in ? ` ${ways[c.sign_in]}` : ', sign-in not said'
  return `${s.name} from ${p.title}: reached${signIn}${c.straight ? ', not by its name' : ''}`
}
const isAsked = (s: Schemas['ReachedService'], p: Column) => p.from === asked.from && p.cell(s).to === asked.to
function pick(step: Schemas['RequestStep']) {
  if (step.to) void router.push(step.to)
}
function trail(from: string, to: string) {
  ask({ from, to, vlan: 0 })
  void router.push('/networks/ways')
}
const letThrough = (line: string) => attempt(() => send('/api/v1/lines', { line }))
</script>

<template>
  <div class="paper-view" data-scroll>
    <section class="leaf">
      <div class="between">
        <v-autocomplete v-model="asked.from" :items="places" label="From" density="compact" hide-details auto-select-first />
        <span aria-hidden="true">→</span>
        <v-autocomplete v-model="asked.to" :items="targets" label="What is asked for" density="compact" hide-details auto-select-first />
      </div>
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      <template v-else-if="way?.steps.length">
        <RequestStrip :way="way" @pick="pick" @trail="trail" />
        <div aria-live="polite">
          <p v-if="way.arrives">It arrives{{ way.sign_in ? `, ${ways[way.sign_in]}` : '; whether one signs in is not written down' }}.</p>
          <template v-else>
            <p class="bad">{{ way.why }}</p>
            <p v-if="way.fix" class="fix">
              {{ way.fix }}
              <template v-if="way.line">
                <code class="figure">{{ way.line }}</code>
                <v-btn v-if="!past" size="small" @click="letThrough(way.line)">Write it down</v-btn>
              </template>
            </p>
          </template>
        </div>
      </template>
      <p v-else-if="table && !table.services.length" class="soft">
        No services yet. Write what a person uses and what it runs in, then how one gets there:
        <code class="figure">library.quarry.home.arpa -> "way in" -> library:8080</code>.
      </p>
    </section>
    <section v-if="table?.services.length" class="leaf">
      <h2>
        What is reached from where
        <span class="soft legend">
          <ReachedMark :cell="{ arrives: true, sign_in: 'asked' }" /> behind a sign-in
          <ReachedMark :cell="{ arrives: true, sign_in: 'none' }" /> without <ReachedMark :cell="{ arrives: true }" /> not said
          <ReachedMark :cell="{ arrives: false }" /> not reached
        </span>
      </h2>
      <div class="scroll" tabindex="0" role="region" aria-label="What is reached from where">
        <table class="figures">
          <thead>
            <tr>
              <th scope="col">Service</th>
              <th v-for="p in columns" :key="p.from" scope="col" class="place">
                {{ p.title }}<small v-if="p.kind !== 'internet'">{{ p.over.join(', ') || kinds[p.kind] }}</small>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in table.services" :key="s.id">
              <th scope="row">
                {{ s.name }} <small class="figure">{{ s.names.join(', ') }}</small>
              </th>
              <td v-for="p in columns" :key="p.from" :class="{ here: isAsked(s, p) }">
                <button
                  :title="says(s, p)"
                  :aria-label="says(s, p)"
                  :aria-pressed="isAsked(s, p)"
                  @click="Object.assign(asked, { from: p.from, to: p.cell(s).to })">
                  <ReachedMark :cell="p.cell(s)" :outside="p.kind === 'internet'" />
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
  </div>
</template>

<style scoped>
.between {
  display: grid;
  grid-template-columns: minmax(0, 2fr) auto minmax(0, 3fr);
  gap: 10px;
  align-items: center;
  max-width: 760px;
}
.fix {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 12px;
  align-items: center;
  margin-top: 4px;
}
.legend {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 2px 6px;
  align-items: center;
}
.legend :deep(svg:not(:first-child)) {
  margin-left: 10px;
}
.place {
  max-width: 92px;
  vertical-align: bottom;
  text-align: center;
}
.figures :is(.place, td) {
  text-align: center;
}
th small {
  display: block;
  font-weight: 400;
  font-size: 12px;
  color: var(--soft);
}
td button {
  display: block;
  width: 100%;
  min-width: 32px;
  height: 28px;
  line-height: 0;
}
.here {
  background: var(--strip);
  box-shadow: inset 0 0 0 1px var(--ink);
}
@media (max-width: 700px) {
  .between {
    grid-template-columns: 1fr;
  }
  .between > span {
    display: none;
  }
  td button {
    min-width: 44px;
    height: 44px;
  }
  .fix .v-btn {
    min-height: 44px;
  }
}
</style>
