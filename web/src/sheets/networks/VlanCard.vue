<script setup lang="ts">
// The card of the VLAN that is lit: what it is for, where it reaches, in how many
// pieces, what would join them.
import { computed } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import CardFrame from '../../card/CardFrame.vue'
import RecordCard from '../../card/RecordCard.vue'
import { useCard } from '../../card/useCard'
import { attempt, useLab } from '../../lab/useLab'
import { useFindings } from '../../lab/useFindings'
import { useReport } from '../../lab/useReport'
import { useFix } from '../../work/useFix'
import { useNetwork } from '../../work/useNetwork'
import { useWork } from '../../work/work'
import { portsWords } from './ports'

const work = useWork()
const { lab, send } = useLab()
const { vlan, lit, map } = useNetwork()
const { fix } = useFix()
const { findings } = useFindings()
const key = computed(() => ({ kind: 'vlan' as const, id: vlan.value?.id ?? '' }))
const { data: report } = useReport(() => (vlan.value ? api('/api/v1/reports/vlans') : ''))
const { data: card } = useCard(() => key.value)
const spread = computed(() =>
  report.value?.vlans.find((v) => v.number === vlan.value?.number && (v.domain ?? '') === (vlan.value?.switching_domain ?? '')),
)
const pieces = computed(() => spread.value?.pieces ?? [])
const passing = computed(() => new Set((map.value?.nodes ?? []).filter((n) => n.stratum !== 'things').map((n) => n.title)))
const says = (p: Schemas['ReportPiece']) => {
  const switches = p.devices.filter((d) => passing.value.has(d)).length
  const ports = `${p.ports.length} ports`
  return switches ? `${ports} on ${p.devices.length} devices, ${switches} of which pass it on` : `${ports} on ${p.devices.length} devices`
}
const things = computed(() =>
  pieces.value.flatMap((p, i) => p.devices.filter((d) => !passing.value.has(d)).map((title) => ({ title, cut: i > 0 }))),
)
const idOf = (title: string) => map.value?.nodes.find((n) => n.title === title)?.id
const about = computed(() =>
  findings.value.filter((f) => !f.accepted && f.records.some((r) => r.kind === 'vlan' && r.id === vlan.value?.id)),
)
const declare = () =>
  attempt(() =>
    send('/api/v1/lines', {
      line: `vlan ${vlan.value?.number}${vlan.value?.switching_domain ? ` in domain "${vlan.value.switching_domain}"` : ''}`,
    }),
  )
</script>

<template>
  <CardFrame v-if="vlan" :open="work.cardOpen" @close="work.cardOpen = false">
    <template v-if="vlan.id && card">
      <RecordCard :record="key" :card="card" :still="lab?.view.kind === 'past'">
        <template #head><slot /></template>
        <h2>Spread</h2>
        <p v-if="!pieces.length">No cable carries it.</p>
        <template v-for="(p, i) in pieces" :key="i">
          <p>
            <b v-if="pieces.length > 1" :class="{ bad: i > 0 }"
              >{{ i ? `Piece ${i + 1}, cut off` : `${pieces.length} pieces. The largest` }}: </b
            >{{ says(p) }}
          </p>
          <dl class="ports">
            <template v-for="how in [false, true]" :key="`${how}`">
              <template v-if="p.ports.some((x) => x.tagged === how)">
                <dt>{{ how ? 'Tagged' : 'Untagged' }}</dt>
                <dd class="figure">{{ portsWords(p.ports.filter((x) => x.tagged === how)) }}</dd>
              </template>
            </template>
          </dl>
        </template>
        <template v-for="f in about" :key="f.key">
          <p class="find">{{ f.say }}</p>
          <v-btn v-if="f.fix && lab?.view.kind !== 'past'" size="small" @click="fix(f)">{{ f.fix.say }}</v-btn>
        </template>
        <template v-if="things.length">
          <h2>Here by cable or air</h2>
          <ul class="things">
            <li v-for="t in things" :key="t.title">
              <button @click="idOf(t.title) && work.pick(idOf(t.title) ?? '')">
                <b>{{ t.title }}</b><span v-if="t.cut" class="bad">cut off</span>
              </button>
            </li>
          </ul>
        </template>
        <template #remove><v-btn @click="lit = ''">Put out the light</v-btn></template>
      </RecordCard>
    </template>
    <template v-else-if="!vlan.id">
      <p class="title">VLAN {{ vlan.number }}</p>
      <p class="sub">Not declared: ports are said to carry it, and nothing says what it is.</p>
      <v-btn v-if="lab?.view.kind !== 'past'" size="small" @click="declare">Declare it</v-btn>
    </template>
  </CardFrame>
</template>

<style scoped>
.ports {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 12px;
  margin: 2px 0 8px;
}
dt {
  color: var(--soft);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.bad {
  color: var(--red);
}
.find {
  margin: 10px 0 6px;
  padding-left: 8px;
  border-left: 3px solid var(--red);
}
</style>
