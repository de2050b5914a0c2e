<script setup lang="ts">
// Subnets and who has which address: the tree of subnets, and the one that is picked
// as a ruler.
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { attempt, say, useLab } from '../../lab/useLab'
import { isOpen, useFindings } from '../../lab/useFindings'
import { useAddresses, type RulerMark } from '../../work/useAddresses'
import { useFix } from '../../work/useFix'
import { usePhone } from '../../work/usePhone'
import { useWork } from '../../work/work'
import LevelMark from '../findings/LevelMark.vue'
import AddressList from './AddressList.vue'
import RenumberDialog from './RenumberDialog.vue'
import RulerDrawing from './RulerDrawing.vue'
import SubnetTree from './SubnetTree.vue'

const emit = defineEmits<{ says: [text: string] }>()
const { subnet, within, picked, shown, tree, ruler, show } = useAddresses()
onMounted(() => (shown.value = true))
onBeforeUnmount(() => (shown.value = false))
const work = useWork()
const phone = usePhone()
const { lab, send } = useLab()
const { findings } = useFindings()
const { fix } = useFix()
const past = computed(() => lab.value?.view.kind === 'past')
const renumbering = ref(false)

const use = computed(() => tree.value?.branches.find((b) => b.subnet?.id === subnet.value)?.subnet)
const about = computed(() =>
  findings.value.filter((f) => f.network && isOpen(f) && f.records.some((r) => r.kind === 'subnet' && r.id === subnet.value)),
)
const heading = computed(() => {
  const u = use.value
  const r = ruler.value
  if (!u || !r) return ''
  const where = [u.name, u.vlan && `VLAN ${u.vlan}`].filter(Boolean).join(', ')
  const counts = [
    `${u.used} had`,
    u.handed_out ? `${u.handed_out} handed out${r.handed_out_by ? ` by ${r.handed_out_by}` : ''}` : '',
    u.free === null ? 'very many left' : `${u.free} left`,
  ]
  return [where, counts.filter(Boolean).join(', ')].filter(Boolean).join(' · ')
})
const beside = computed(() => {
  const r = ruler.value
  if (!r) return ''
  return [
    r.gateway ? `gateway ${r.gateway}` : 'no gateway',
    r.name_servers.length ? `names from ${r.name_servers.join(', then ')}` : '',
    r.names_end_in ? `names end in ${r.names_end_in}` : '',
  ]
    .filter(Boolean)
    .join('; ')
})
watch(tree, (now) => emit('says', now && !now.branches.length ? '' : `${now?.branches.filter((b) => b.subnet).length ?? 0} subnets`), {
  immediate: true,
})

function pick(address: string) {
  picked.value = address
  work.deviceId = ''
  work.cardOpen = true
}
const move = (mark: RulerMark, to: string) =>
  attempt(async () => {
    const had = mark.had[0]
    if (!had?.device_id) return
    await send('/api/v1/network/addresses', { device_id: had.device_id, was: mark.address, address: to })
    say(`${had.title} has ${to} now, and no longer ${mark.address}; Ctrl+Z takes it back.`)
    picked.value = to
  })
</script>

<template>
  <p v-if="tree && !tree.branches.length" class="none">
    No subnets yet. Type one above, such as
    <code class="figure">subnet 10.20.0.0/24 vlan 20, gateway .1, handed out .100-.178 by gate</code>, and what has an address:
    <code class="figure">anvil 10.20.0.12</code>.
  </p>
  <div v-else class="room" data-scroll>
    <SubnetTree class="tree" :branches="tree?.branches ?? []" :picked="subnet" @pick="show" />
    <section v-if="ruler && use" class="subnet" :aria-label="`Subnet ${ruler.cidr}`">
      <header>
        <h2 class="figure">{{ ruler.within }}</h2>
        <button v-if="ruler.up" class="up" @click="within = ruler.up === ruler.cidr ? '' : ruler.up">out to {{ ruler.up }}</button>
        <span v-if="!past" class="does">
          <v-btn size="small" :disabled="!ruler.next_free" @click="ruler.next_free && pick(ruler.next_free)">
            {{ ruler.next_free ? `Next free: ${ruler.next_free}` : 'None is free' }}
          </v-btn>
          <v-btn size="small" variant="text" @click="renumbering = true">Renumber…</v-btn>
        </span>
        <p>{{ heading }}</p>
        <p class="soft">{{ beside }}</p>
      </header>
      <AddressList v-if="phone || !ruler.lengths.length" :ruler="ruler" :picked="picked" @pick="pick" @into="within = $event" />
      <RulerDrawing v-else :ruler="ruler" :picked="picked" :still="past" @pick="pick" @into="within = $event" @move="move" />
      <p v-if="!phone && ruler.lengths.length && ruler.each === 1" class="legend" aria-hidden="true">
        <span><i class="fixed" />fixed</span><span><i class="gate" />gateway</span><span><i class="kept" />reserved</span
        ><span><i class="lent" />handed out</span><span><b>+</b>free, the next one</span>
      </p>
      <p v-else-if="ruler.each > 1" class="soft">A graduation is {{ ruler.each }} addresses; Enter steps into it.</p>
      <p class="actions files">
        <a href="/api/v1/files/address_plan.csv" download>Address plan (CSV)</a>
        <a href="/api/v1/files/reservations.csv" download>Reservations (CSV)</a>
      </p>
      <ul v-if="about.length" class="finds" aria-label="Findings in this subnet">
        <li v-for="f in about" :key="f.key">
          <LevelMark :level="f.level" bare /> {{ f.say }}
          <v-btn v-if="f.fix && !past" size="small" @click="fix(f)">{{ f.fix.say.replace(/\.$/, '') }}</v-btn>
        </li>
      </ul>
    </section>
    <RenumberDialog v-if="renumbering && ruler" :subnet="subnet" :cidr="ruler.cidr" @close="renumbering = false" />
  </div>
</template>

<style scoped>
.none {
  padding: 20px;
}
.room {
  display: grid;
  flex: 1;
  grid-template-columns: minmax(176px, 216px) minmax(0, 1fr);
  min-height: 0;
  margin: 0 18px 10px;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.tree {
  min-height: 0;
  border-right: 1px solid var(--rule);
}
.subnet {
  min-height: 0;
  padding: 8px 12px 12px;
  overflow: auto;
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 12px;
  margin-bottom: 6px;
}
h2 {
  font: 600 17px var(--figures);
}
header p {
  width: 100%;
}
header .soft {
  font-size: 13px;
}
.does {
  display: flex;
  gap: 4px;
  margin-left: auto;
}
.up {
  color: var(--water);
  text-decoration: underline dotted;
  text-underline-offset: 4px;
}
.legend,
.actions {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
  margin-top: 8px;
}
.legend {
  font: 500 13px var(--names);
  color: var(--soft);
}
.legend i {
  display: inline-block;
  width: 14px;
  height: 12px;
  margin-right: 5px;
  vertical-align: -1px;
}
.fixed {
  background: var(--pale);
}
.gate {
  background: var(--ink);
}
.kept {
  background: var(--pale);
  border: 1px solid var(--ink);
}
.lent {
  background: repeating-linear-gradient(135deg, var(--pale) 0 1.4px, transparent 1.4px 4px);
  border: 1px solid var(--rule);
}
.legend b {
  margin-right: 5px;
  color: var(--ink);
}
.actions a {
  color: var(--water);
}
.finds {
  margin-top: 10px;
  list-style: none;
}
.finds li {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 8px;
  padding: 3px 0;
}
@media (max-width: 700px) {
  .room {
    grid-template-columns: minmax(0, 1fr);
    margin: 0 10px 6px;
    overflow: auto;
  }
  .tree {
    max-height: 220px;
    border-right: 0;
    border-bottom: 1px solid var(--ink);
  }
  .subnet {
    overflow: visible;
  }
}
</style>
