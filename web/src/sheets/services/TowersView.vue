<script setup lang="ts">
// Each host with its guests stacked on it, as high as the memory they are given. A guest
// is dragged to another host, which says what speaks against that.
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import { get, type Schemas } from '../../api/client'
import { scaleFor } from '../../draw/towers'
import { attempt, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { title } from '../../lab/words'
import { useActions } from '../../work/useActions'
import { usePhone } from '../../work/usePhone'
import { lenses, useServices, type TowerLens } from '../../work/useServices'
import { useSome } from '../../work/useSome'
import { useWork } from '../../work/work'
import GuestBlock from './GuestBlock.vue'
import HostTower from './HostTower.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { lab } = useLab()
const { moveAll } = useActions()
const phone = usePhone()
const { running } = useServices()
const lens = ref<TowerLens>('memory')

/** The largest first; what runs nothing last. */
const rooms = computed(() =>
  [...(running.value?.hosts ?? [])].sort(
    (a, b) => Number(!a.guests) - Number(!b.guests) || (b.fitted_bytes ?? 0) - (a.fitted_bytes ?? 0) || a.name.localeCompare(b.name, 'en'),
  ),
)
const { some, more } = useSome(rooms, 24)
const box = ref<HTMLElement>()
const { height } = useElementSize(box)
/** Pixels of a GB: the highest tower is as high as the room there is for it. */
const besides = 112 // what the lenses, the plinths and the margins take
const perGB = computed(() => (phone.value ? 0 : scaleFor(some.value, Math.max(240, height.value - besides))))

/** The guest that is on its way to another host, and what each has for it. */
const dragged = ref('')
const asked = ref('')
const fitsOf = (guest: string) => api('/api/v1/reports/fits', { guest })
const { data: fits } = useReport(() => (dragged.value ? fitsOf(dragged.value) : ''))
const fitsOn = computed(() => new Map((fits.value?.hosts ?? []).map((h) => [h.id, h])))
const over = ref('')
/** A move that a check speaks against, which waits for a word. */
const waiting = ref<Schemas['FitsHere']>()
const last = computed(() => lab.value?.devices.get(asked.value))

/** On a phone the card is over everything, and opens for what is picked. */
function pick(id: string) {
  work.pick(id)
  work.cardOpen = true
}
function lift(id: string, e: DragEvent) {
  e.dataTransfer?.setData('text/plain', title(lab.value?.devices.get(id) ?? ({} as never)))
  if (e.dataTransfer) e.dataTransfer.effectAllowed = 'move'
  dragged.value = asked.value = id
  waiting.value = undefined
}
/** A drop may be quicker than the checks, so that they are asked for once more. */
async function put(host: string) {
  over.value = dragged.value = ''
  if (last.value?.at?.device_id === host) return
  await attempt(async () => {
    const on = (await get(fitsOf(asked.value))).hosts.find((h) => h.id === host)
    if (on && !on.fits) waiting.value = on
    else await go(host)
    return undefined
  })
}
async function go(host: string) {
  waiting.value = undefined
  if (last.value) await moveAll([last.value], { where: 'device', device_id: host })
}
const against = computed(() => waiting.value?.checks.filter((c) => !c.held) ?? [])
const says: Partial<Record<TowerLens, string>> = {
  memory: 'height is memory given, the dark edge what is used',
  cores: 'vCPUs against threads',
}
watch([running, lens], ([now]) => emit('says', (now?.hosts.length && !phone.value && says[lens.value]) || ''), { immediate: true })
</script>

<template>
  <div ref="box" class="paper-view towers" data-scroll>
    <p v-if="running && !running.hosts.length && !running.loose.length">
      Nothing is said to run anywhere yet. Write what a device runs guests with,
      <code class="figure">anvil: runs hypervisor, keeps 6GB</code>, and then what runs on it:
      <code class="figure">on anvil: vm "choir": 8 vcpu, 24GB, uses 14GB, household</code>.
    </p>
    <template v-else-if="running">
      <div class="what">
        <div class="segments" role="group" aria-label="What the blocks show">
          <button v-for="l in lenses" :key="l.value" :aria-pressed="lens === l.value" @click="lens = l.value">{{ l.text }}</button>
        </div>
        <div v-if="waiting && last" class="ask" role="alertdialog" :aria-label="`${title(last)} to ${waiting.name}`">
          <p>
            <b>{{ title(last) }} on {{ waiting.name }}:</b> {{ against.map((c) => c.say).join('; ') }}.
          </p>
          <button class="do" @click="go(waiting.id)">Move it anyway</button>
          <button @click="waiting = undefined">Leave it</button>
        </div>
      </div>
      <div class="room">
        <HostTower
          v-for="h in some"
          :key="h.id"
          :host="h"
          :lens="lens"
          :per-g-b="perGB"
          :picked="work.deviceId"
          :fits="dragged && dragged !== h.id ? fitsOn.get(h.id) : undefined"
          :over="over === h.id"
          @pick="pick"
          @lift="lift"
          @drop="put(h.id)"
          @over="over = $event ? h.id : ''"
          @done="dragged = ''" />
      </div>
      <p v-if="more" :key="some.length" ref="end" class="soft">and {{ rooms.length - some.length }} more</p>
      <template v-if="running.loose.length">
        <p class="soft">On no host</p>
        <ul class="loose">
          <GuestBlock
            v-for="g in running.loose"
            :key="g.id"
            :guest="g"
            :lens="lens"
            :per-g-b="0"
            :picked="work.deviceId"
            @pick="pick"
            @lift="lift"
            @done="dragged = ''" />
        </ul>
      </template>
    </template>
  </div>
</template>

<style scoped>
.room {
  display: flex;
  flex: 1 0 auto;
  gap: 16px;
  align-items: flex-end;
  min-height: 360px;
  padding: 8px 0 4px;
  overflow-x: auto;
}
.ask {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: baseline;
  padding: 6px 10px;
  background: var(--sheet);
  border: 1px solid var(--red);
}
.ask p {
  flex: 1 1 300px;
}
.ask button {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.ask .do {
  color: var(--red);
}
.loose {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  max-width: 700px;
  padding: 0;
  list-style: none;
}
@media (max-width: 700px) {
  .room {
    flex-direction: column;
    gap: 16px;
    align-items: stretch;
    overflow-x: visible;
  }
  .ask button {
    min-height: 44px;
  }
}
</style>
