<script setup lang="ts">
// What the network hangs by: each link and device whose loss cuts something off,
// the worst first. Leads to a single device come last, in one list.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import { useReport } from '../../lab/useReport'
import { useNetwork } from '../../work/useNetwork'
import { useWork } from '../../work/work'
import { useTrail } from './useTrail'
import '../cabling/lists.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { map } = useNetwork()
const { showTrail } = useTrail()
const { data } = useReport(() => api('/api/v1/reports/threads'))
type Thread = Schemas['Thread']
const worst = computed(() => (data.value?.threads ?? []).filter((t) => t.cuts_off.length > 1))
const single = computed(() => (data.value?.threads ?? []).filter((t) => t.cuts_off.length === 1))
const all = computed(() => map.value?.nodes.length ?? 0)
/** Up to so many names are read at a glance. */
const few = 8
const open = ref(new Set<string>())
const names = (t: Thread) => (open.value.has(t.title) ? t.cuts_off : t.cuts_off.slice(0, few))
function more(t: Thread) {
  open.value = new Set([...open.value, t.title])
}
function show(t: Thread) {
  if (t.device_id) work.pick(t.device_id)
  else showTrail(t.cable_id)
}
watch(worst, (now) => emit('says', now.length ? `${now.length} cut off more than one device` : ''), { immediate: true })
</script>

<template>
  <div class="list-room" data-scroll>
    <template v-if="data?.threads.length">
      <h2>If one of these is lost, more than one device is cut off</h2>
      <p class="soft">
        From {{ data.from_line ? 'the line outside' : 'the largest piece that is left, as no modem is documented' }}. Links that rest, stand
        by or share an aggregate take over; what they save is not listed.
      </p>
      <table v-if="worst.length" aria-label="Threads">
        <thead>
          <tr>
            <th>Lost</th>
            <th class="number">Cuts off</th>
            <th class="share">Share</th>
            <th>Devices</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="t in worst" :key="t.title">
            <td>
              <button @click="show(t)">
                <b>{{ t.title }}</b>
              </button>
              <span v-if="t.what === 'link'" class="soft what">link</span>
            </td>
            <td class="number">{{ t.cuts_off.length }}</td>
            <td class="share">
              <svg width="90" height="10" aria-hidden="true">
                <rect width="90" height="10" class="of" />
                <rect :width="(90 * t.cuts_off.length) / Math.max(1, all)" height="10" />
              </svg>
            </td>
            <td>
              {{ names(t).join(', ') }}
              <button v-if="t.cuts_off.length > names(t).length" class="soft" @click="more(t)">
                and {{ t.cuts_off.length - names(t).length }} more
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-else>No single loss cuts off more than one device.</p>
      <template v-if="single.length">
        <h2>One device each</h2>
        <p class="soft">Usually the only lead of a device.</p>
        <ul>
          <li v-for="t in single" :key="t.title">
            <b>{{ t.cuts_off[0] }}</b> <span class="soft">hangs by</span>
            <button @click="show(t)">{{ t.title }}</button>
          </li>
        </ul>
      </template>
    </template>
    <p v-else-if="data" class="soft">
      {{ all ? 'Nothing hangs by one thread.' : 'No links yet. Type what is plugged into what, such as core/1 - loft switch/1.' }}
    </p>
  </div>
</template>

<style scoped>
.share {
  width: 110px;
}
rect {
  fill: var(--red);
}
.of {
  fill: var(--strip);
}
ul {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 2px 18px;
  list-style: none;
}
li button {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.list-room li .soft {
  margin: 0 5px;
}
.what {
  margin-left: 6px;
}
@media (max-width: 700px) {
  .share {
    display: none;
  }
  :is(td, li) button {
    min-height: 44px;
  }
}
</style>
