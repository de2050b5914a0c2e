<script setup lang="ts">
// The card of the address that is picked on the ruler: who has it and how, under which
// names, or whom to give it to.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import CardFrame from '../../card/CardFrame.vue'
import ReachLists from '../../card/ReachLists.vue'
import { handedOut } from '../../draw/ruler'
import { isOpen, useFindings } from '../../lab/useFindings'
import { useReport } from '../../lab/useReport'
import { attempt, say, useLab } from '../../lab/useLab'
import { title } from '../../lab/words'
import { useAddresses } from '../../work/useAddresses'
import { useFix } from '../../work/useFix'
import { useWork } from '../../work/work'
import LevelMark from '../findings/LevelMark.vue'

const work = useWork()
const { lab, send } = useLab()
const { picked, ruler, markAt } = useAddresses()
const past = computed(() => lab.value?.view.kind === 'past')
const mark = computed(() => markAt(picked.value))
const had = computed(() => mark.value?.had ?? [])
const first = computed(() => had.value.find((h) => h.device_id))
const { data: of } = useReport(() => (first.value?.device_id ? api('/api/v1/devices/{id}/addresses', { id: first.value.device_id }) : ''))
const also = computed(() => of.value?.addresses.filter((a) => a.address !== picked.value) ?? [])
const inRange = computed(() => ruler.value?.each === 1 && handedOut(ruler.value.lengths, picked.value))

const { findings } = useFindings()
const { fix } = useFix()
/** What the checks say of just this address. */
const about = computed(() =>
  had.value.length
    ? findings.value.filter((f) => f.network && isOpen(f) && f.say.split(/[\s,.;:]+(?=\s|$)|\s/).includes(picked.value))
    : [],
)

/** Whom to give a free one to. */
const to = ref<string | null>(null)
const reserve = ref(false)
watch(picked, () => {
  to.value = null
  reserve.value = inRange.value
})
const devices = computed(() =>
  [...(lab.value?.devices.values() ?? [])].map((d) => ({ value: d.id, title: title(d) })).sort((a, b) => a.title.localeCompare(b.title)),
)
const give = () =>
  attempt(async () => {
    if (!to.value) return
    await send('/api/v1/network/addresses', { device_id: to.value, address: picked.value, how: reserve.value ? 'reserved' : 'fixed' })
    say(`${devices.value.find((d) => d.value === to.value)?.title ?? ''} has ${picked.value}; Ctrl+Z takes it back.`)
    to.value = null
  })
const change = (device: string, more: { address?: string; how?: 'fixed' | 'reserved'; name?: string; mac?: string }) =>
  attempt(() => send('/api/v1/network/addresses', { device_id: device, was: picked.value, address: picked.value, ...more }))
const take = (device: string) => attempt(() => send('/api/v1/network/addresses', { device_id: device, was: picked.value }))
const howWords = { fixed: 'fixed on it', reserved: 'reserved for it', handed_out: 'handed out to it' }
</script>

<template>
  <CardFrame :open="work.cardOpen" @close="((work.cardOpen = false), (picked = ''))">
    <p class="title figure">{{ picked }}</p>
    <p class="sub">{{ had.length ? 'address' : 'a free address' }} · {{ ruler?.name || ruler?.cidr }}</p>
    <section v-for="h in had" :key="h.device_id ?? 'nobody'">
      <dl>
        <dt>Who</dt>
        <dd>
          <button v-if="h.device_id" class="who" @click="work.pick(h.device_id)">
            <b>{{ h.title }}</b>
          </button>
          <b v-else>nobody</b>, {{ h.kind }}
        </dd>
        <template v-if="h.device_id">
          <dt>How</dt>
          <dd>{{ howWords[h.how] }}{{ h.gateway ? '; it is the gateway' : '' }}</dd>
          <template v-if="h.port">
            <dt>Port</dt>
            <dd class="figure">{{ h.port }}</dd>
          </template>
          <template v-if="h.mac">
            <dt>MAC</dt>
            <dd class="figure">{{ h.mac }}</dd>
          </template>
          <template v-if="h.names.length">
            <dt>Names</dt>
            <dd>
              <span v-for="n in h.names" :key="n" class="figure name">{{ n }}</span>
            </dd>
          </template>
        </template>
      </dl>
      <p v-if="h.device_id && !past" class="actions">
        <v-btn v-if="h.how !== 'reserved'" size="small" @click="change(h.device_id, { how: 'reserved' })">Reserve it</v-btn>
        <v-btn v-else size="small" @click="change(h.device_id, { how: 'fixed' })">It is fixed</v-btn>
        <v-btn size="small" variant="text" @click="take(h.device_id)">Take it from {{ h.title }}</v-btn>
      </p>
    </section>
    <template v-for="f in about" :key="f.key">
      <p class="find"><LevelMark :level="f.level" bare /> {{ f.say }}</p>
      <v-btn v-if="f.fix && !past" size="small" @click="fix(f)">{{ f.fix.say.replace(/\.$/, '') }}</v-btn>
    </template>
    <template v-if="also.length">
      <h2>{{ first?.title }} also has</h2>
      <ul class="also">
        <li v-for="a in also" :key="a.address">
          <span class="figure">{{ a.address }}</span> <span class="soft">{{ a.in || a.cidr || 'a link of its own' }}</span>
        </li>
      </ul>
    </template>
    <template v-if="!had.length && !past">
      <p v-if="inRange" class="soft">It is inside what is handed out, so reserve it for whoever gets it.</p>
      <form @submit.prevent="give">
        <v-autocomplete v-model="to" :items="devices" label="Give it to" density="compact" hide-details auto-select-first />
        <v-checkbox v-model="reserve" label="Reserved, not fixed" density="compact" hide-details />
        <v-btn type="submit" size="small" :disabled="!to">Give it</v-btn>
      </form>
    </template>
    <ReachLists v-if="of" :of="of" />
  </CardFrame>
</template>

<style scoped>
.title {
  font: 600 19px/1.3 var(--figures);
  overflow-wrap: anywhere;
}
dl {
  display: grid;
  grid-template-columns: 64px 1fr;
  margin: 8px 0;
}
dt,
dd {
  margin: 0;
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  color: var(--soft);
}
.who b {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.name {
  display: block;
  overflow-wrap: anywhere;
}
.actions {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.find {
  margin: 10px 0 6px;
}
.also {
  list-style: none;
}
form {
  margin-top: 8px;
}
form .v-btn {
  margin-top: 4px;
}
h2 {
  margin-top: 14px;
}
@media (max-width: 700px) {
  .who {
    min-height: 44px;
  }
}
</style>
