<script setup lang="ts">
// How long each UPS holds, how its battery falls while things stop in order, and what to
// say of when they do; starting again; what another load or battery would do.
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import FactRow from '../../card/FactRow.vue'
import { attempt, say, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { clockWords } from '../../work/clockWords'
import { minutesWords, restsWords } from '../../work/useBattery'
import { wattsWords } from '../../work/usePower'
import { useWork } from '../../work/work'
import BatteryCurve from './BatteryCurve.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { lab, send } = useLab()
const still = computed(() => lab.value?.view.kind === 'past')
/** More load to try, and when the mains come back; '' for neither. */
const add = ref('')
const back = ref('')
const valid = (v: string) => (v.trim() && Number.isFinite(Number(v)) ? v.trim() : undefined)
const { data: batteries } = useReport(() => api('/api/v1/reports/battery', valid(add.value) ? { add: valid(add.value) } : {}))
const { data: plan } = useReport(() => api('/api/v1/reports/shutdown', valid(back.value) ? { back: valid(back.value) } : {}))
const room = ref<HTMLElement>()
const { width } = useElementSize(room)

const told = (run?: Schemas['Shutdown']) => run?.steps.length ?? 0
/** UPSs that most is told to stop on come first, with what becomes of it. */
const shown = computed(() =>
  (batteries.value?.ups ?? [])
    .map((hold) => ({ hold, run: plan.value?.ups.find((u) => u.id === hold.id) }))
    .sort((a, b) => told(b.run) - told(a.run) || (b.hold.load_w ?? 0) - (a.hold.load_w ?? 0)),
)
const batteryWords = (b: Schemas['UPSBattery']) =>
  [b.chemistry, b.energy_wh && `${b.energy_wh} Wh`, b.put_in && `since ${b.put_in}`, b.past && 'past its years', b.outside && 'outside']
    .filter(Boolean)
    .join(', ') || 'nothing is known of it'
const full = (is?: number, of?: number) => (is !== undefined && of ? ` (${Math.round((100 * is) / of)} %)` : '')
/** How it ends, in a sentence. */
function ends(run: Schemas['Shutdown']): string {
  const lost = run.held.filter((h) => h.lost && h.computes).map((h) => h.device)
  const empty = run.empty_s === undefined ? 'when its battery is empty is unknown' : `its battery is empty after ${clockWords(run.empty_s)}`
  const down = run.down_s === undefined ? '' : `All that stop in order are down after ${clockWords(run.down_s)}; `
  return `${down}${down ? empty : empty[0]?.toUpperCase() + empty.slice(1)}.${lost.length ? ` Lost hard: ${lost.join(', ')}.` : ''}`
}
const suggest = () =>
  attempt(async () => {
    await send('/api/v1/power/order', {})
    say('Toys go first, what others need last. Ctrl+Z takes it back.')
  })
const open = computed(() => shown.value.some((s) => s.run?.held.some((h) => !h.goes && !h.with)))
const print = () => window.print()
watch(
  batteries,
  (now) => {
    const first = now?.ups.filter((u) => u.minutes !== undefined).sort((a, b) => (a.minutes ?? 0) - (b.minutes ?? 0))[0]
    emit('says', first?.minutes === undefined ? '' : `${first.name} holds ${first.load_at_least ? '≤ ' : ''}${minutesWords(first.minutes)}`)
  },
  { immediate: true },
)
</script>

<template>
  <div class="paper-view battery" data-scroll>
    <div class="what">
      <label
        >more load <input v-model="add" class="field figure" inputmode="decimal" placeholder="0" aria-label="More load, in W" /> W</label
      >
      <label
        >mains back after
        <input v-model="back" class="field figure" inputmode="decimal" placeholder="never" aria-label="Mains back, in minutes" /> min</label
      >
      <span class="grow" />
      <v-btn v-if="open && !still" size="small" @click="suggest">Suggest an order</v-btn>
      <v-btn size="small" variant="text" @click="print">Print</v-btn>
      <a class="file" :href="'/api/v1/files/shutdown_plan.md'" download>Markdown</a>
    </div>
    <p v-if="batteries && !batteries.ups.length">
      No UPS is written down: <code class="figure">ups "keep": 1500VA 900W, 500W for 14min, 1000W for 5min</code>.
    </p>
    <p v-if="plan?.back" class="note" role="status">
      With the mains back after {{ back }} min:
      <template v-if="plan.back.down.length">{{ plan.back.down.join(', ') }} to be started again. </template>
      <template v-if="plan.back.stopping.length">{{ plan.back.stopping.join(', ') }} still stopping. </template>
      <template v-if="plan.back.up.length">{{ plan.back.up.length }} never went.</template>
    </p>
    <div ref="room" class="ruler" aria-hidden="true" />
    <section class="leaf" v-for="{ hold, run } in shown" :key="hold.id" :aria-label="hold.name">
      <h2>
        <button @click="work.pick(hold.id)">{{ hold.name }}</button>
        <b
          v-if="hold.minutes !== undefined"
          class="figure"
          :class="{ bad: hold.to_hold_min !== undefined && hold.minutes < hold.to_hold_min }"
          >{{ hold.load_at_least ? '≤ ' : '' }}{{ minutesWords(hold.minutes) }}</b
        >
        <i v-else class="unknown">? min</i>
        <span v-if="hold.to_hold_min !== undefined" class="soft">of {{ hold.to_hold_min }} wanted</span>
        <span class="soft">{{ restsWords(hold) }}</span>
      </h2>
      <p class="facts">
        <span
          >Gives <span class="figure">{{ wattsWords(hold.load_w, hold.load_at_least ? 1 : 0) }}</span>{{
            hold.of_w ? ` of ${hold.of_w}` : ''
          }}
          W{{ full(hold.load_w, hold.of_w)
          }}<template v-if="hold.va !== undefined && hold.of_va"
            >, {{ Math.round(hold.va) }} of {{ hold.of_va }} VA{{ full(hold.va, hold.of_va) }}</template
          ></span
        >
        <span v-for="(b, i) in hold.batteries" :key="i" :class="{ bad: b.past }">Battery: {{ batteryWords(b) }}</span>
        <span v-if="hold.watched_by">Watched by {{ hold.watched_by }}{{ hold.watched_over ? ` over ${hold.watched_over}` : '' }}</span>
        <span v-else-if="hold.holds.length">Nothing says who watches it</span>
        <span v-if="hold.minutes_add !== undefined"
          >With {{ add }} W more <b class="figure">{{ minutesWords(hold.minutes_add) }}</b></span
        >
        <span v-if="hold.minutes_new !== undefined && hold.left < 0.995"
          >With a new battery <b class="figure">{{ minutesWords(hold.minutes_new) }}</b></span
        >
        <span v-for="o in hold.instead.slice(0, 3)" :key="o.name"
          >{{ o.name }} in its place <b class="figure">{{ minutesWords(o.minutes) }}</b></span
        >
        <span v-for="a in hold.after" :key="a">Its battery goes on when that of {{ a }} is empty</span>
      </p>
      <template v-if="run?.held.length">
        <BatteryCurve v-if="width > 0 && hold.minutes !== undefined" :ups="run" :width="width - 30" />
        <p class="ends">{{ ends(run) }}</p>
        <div class="scroll">
          <table class="figures">
            <thead>
              <tr>
                <th>Device</th>
                <th>Goes</th>
                <th>Takes to stop</th>
                <th class="r">Told after</th>
                <th class="r">Down after</th>
                <th class="r">Battery</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="h in run.held" :key="h.device_id">
                <th scope="row">
                  <button @click="work.pick(h.device_id)">{{ h.device }}</button>
                </th>
                <td v-if="h.with && !h.goes" colspan="2" class="soft">with {{ h.with }}, which feeds it</td>
                <template v-else>
                  <td>
                    <FactRow
                      :record="{ kind: 'device', id: h.device_id }"
                      field="goes"
                      :label="`When ${h.device} goes`"
                      :text="h.goes"
                      :still="still"
                      mono />
                  </td>
                  <td>
                    <FactRow
                      :record="{ kind: 'device', id: h.device_id }"
                      field="stops_s"
                      :label="`How long ${h.device} takes to stop`"
                      :text="h.stops"
                      :still="still"
                      mono />
                  </td>
                </template>
                <td class="figure r">{{ h.at_s === undefined ? '' : clockWords(h.at_s) }}</td>
                <td class="figure r" :class="{ bad: h.lost && h.computes }">
                  <template v-if="h.with && h.lost_at_s !== undefined">{{ clockWords(h.lost_at_s) }}</template>
                  <template v-else-if="h.lost">{{ h.lost_at_s === undefined ? 'lost' : `lost ${clockWords(h.lost_at_s)}` }}</template>
                  <template v-else-if="h.down_at_s !== undefined"
                    >{{ clockWords(h.down_at_s) }}<span v-if="h.guessed" title="Nobody said how long it takes to stop"> ~</span></template
                  >
                </td>
                <td class="figure r">{{ h.battery_pct === undefined ? '' : `${Math.round(h.battery_pct)} %` }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <p v-else class="soft">Nothing hangs on its battery.</p>
    </section>
    <section class="leaf" v-if="plan?.start.length" aria-label="Starting again">
      <h2>When the mains are back</h2>
      <ol>
        <li v-for="w in plan.start" :key="w.at_s">
          <span class="figure">{{ clockWords(w.at_s) }}</span> {{ w.devices.join(', ') }}
          <span v-if="w.over.length" class="bad">more than {{ w.over.join(', ') }} may give</span>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.ruler {
  flex: none;
  height: 0;
}
.facts {
  display: flex;
  flex: none;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: baseline;
  margin: 2px 0 6px;
  font-size: 13px;
}
.grow {
  flex: 1;
}
.file {
  font: 600 13px var(--names);
  color: var(--ink);
}
.ends {
  margin: 4px 0;
}
td :deep(.term) {
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
}
td :deep(.value) {
  white-space: nowrap;
}
td :deep(.row) {
  position: relative;
  display: block;
  padding: 0;
  border: 0;
}
ol {
  padding: 0;
  list-style: none;
}
@media (max-width: 700px) {
  .file {
    display: inline-flex;
    align-items: center;
    min-height: 44px;
  }
  h2 button,
  th button {
    min-height: 44px;
  }
}
@media print {
  .battery .what {
    display: none;
  }
}
</style>
