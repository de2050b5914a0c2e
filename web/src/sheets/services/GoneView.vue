<script setup lang="ts">
// What stops when something goes, the most harmful first; what keeps a dark lab from
// starting, and in which order it starts.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Schemas } from '../../api/client'
import IfGone from '../../card/IfGone.vue'
import { useReport } from '../../lab/useReport'
import { useShow } from '../../work/useShow'
import { useWork } from '../../work/work'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { pick } = useShow()
const { data: worst } = useReport(() => api('/api/v1/reports/worst'))
const { data: dark } = useReport(() => api('/api/v1/reports/circles'))
const { data: start } = useReport(() => api('/api/v1/reports/start'))
type Loss = Schemas['WorstLoss']

const whole = ref(false)
const small = ['port', 'cable', 'part']
const losses = computed(() => (worst.value?.losses ?? []).filter((l) => whole.value || !small.includes(l.kind)))
const most = 60
const shown = computed(() => losses.value.slice(0, most))
const chosen = ref('')
/** What starts last is shut down first. */
const down = ref(false)
const steps = computed(() => (down.value ? [...(start.value?.steps ?? [])].reverse() : (start.value?.steps ?? [])))
const keyOf = (l: Loss) => `${l.kind} ${l.id}`
/** The loss that is looked at, as it is now; the worst at first. */
const looked = computed(() => losses.value.find((l) => keyOf(l) === chosen.value) ?? losses.value[0])
const figures = (l: Loss) => [l.household_services, l.services, l.guests, l.devices]

watch(
  losses,
  ([l]) => emit('says', l ? `the worst is ${l.title}: ${l.services} ${l.services === 1 ? 'service stops' : 'services stop'}` : ''),
  { immediate: true },
)
</script>

<template>
  <div class="paper-view" data-scroll>
    <section v-if="dark" class="leaf">
      <h2>Starting from dark</h2>
      <p v-if="!dark.circles.length && !start?.stuck.length" class="soft">Nothing waits for itself: everything starts again.</p>
      <ul v-else class="circles" aria-label="What waits for itself">
        <li v-for="c in dark.circles" :key="c.says.join()">
          <span class="bad">It does not start:</span> {{ c.says.join(', and ') }}.
          <small v-if="c.cut"
            >To open the circle, {{ c.cut }}.
            <button v-for="(k, i) in c.keys" :key="k.id" @click="pick(k)">{{ c.titles[i] }}</button>
          </small>
        </li>
        <li v-if="start?.stuck.length">Never starts: {{ start.stuck.map((h) => h.title).join(', ') }}.</li>
      </ul>
    </section>
    <section v-if="worst" class="leaf">
      <h2>
        What does the most harm when it goes
        <span v-if="worst.household_services" class="soft"
          >{{ worst.on_one_leg.length }} of {{ worst.household_services }} of the household's services hang on some one thing</span
        >
      </h2>
      <div class="what">
        <label><input v-model="whole" type="checkbox" /> with every outlet, lead and drive</label>
      </div>
      <p v-if="!losses.length" class="soft">
        Nothing stops when any one thing goes, as far as it is written down. Write what runs where, what feeds it, and
        <code class="figure">"choir library" needs "data base"</code>.
      </p>
      <div v-else class="two">
        <div class="scroll" tabindex="0" role="region" aria-label="Losses">
          <table class="figures">
            <thead>
              <tr>
                <th>Gone</th>
                <th class="r">household</th>
                <th class="r">services</th>
                <th class="r">guests</th>
                <th class="r">devices</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="l in shown" :key="keyOf(l)" :class="{ here: l === looked }">
                <td>
                  <button :aria-pressed="l === looked" @click="chosen = keyOf(l)">{{ l.title }}</button> <small>{{ l.kind }}</small>
                </td>
                <td v-for="(n, i) in figures(l)" :key="i" class="r figure" :class="{ bad: !i && n }">{{ n }}</td>
              </tr>
            </tbody>
          </table>
          <p v-if="losses.length > most" class="soft">and {{ losses.length - most }} more that do less harm</p>
        </div>
        <div v-if="looked" class="looked" role="region" :aria-label="`Without ${looked.title}`">
          <IfGone :record="looked" whole />
        </div>
      </div>
    </section>
    <section v-if="start?.steps.length" class="leaf">
      <h2>
        {{ down ? 'Shutdown order' : 'Start order' }}
        <span v-if="start.unsaid && !down" class="soft"
          >at least; {{ start.unsaid }} of {{ start.steps.length }} have no wait written down</span
        >
      </h2>
      <div class="what">
        <label><input v-model="down" type="checkbox" /> the other way round, to shut down</label>
        <a href="/api/v1/files/shutdown_plan.md" download="shutdown_plan.md">the plan for a power cut</a>
      </div>
      <ol class="steps" :aria-label="down ? 'Shutdown order' : 'Start order'">
        <li v-for="s in steps" :key="s.id">
          <button @click="work.pick(s.id)">{{ s.title }}</button>
          <span class="figure">{{ s.after_s && !down ? `${s.after_s} s` : '' }}</span>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 0 20px;
  align-items: start;
}
.two .scroll {
  max-height: 420px;
  overflow: auto;
}
.looked {
  max-height: 420px;
  overflow: auto;
}
td button,
.steps button {
  font: 600 14px var(--names);
  text-align: left;
}
.here td {
  background: var(--strip);
}
small {
  font-size: 13px;
  color: var(--soft);
}
.circles {
  padding: 0;
  margin: 4px 0 0;
  list-style: none;
}
.circles li {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
.circles small {
  display: block;
}
.circles button {
  margin-left: 6px;
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.steps {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0 18px;
  padding: 0 0 0 26px;
  margin: 4px 0 0;
}
.steps li {
  padding: 3px 0;
  border-bottom: 1px solid var(--rule);
}
.steps .figure {
  float: right;
}
@media (max-width: 700px) {
  .two {
    grid-template-columns: 1fr;
  }
  td button,
  .steps button {
    min-height: 44px;
  }
}
</style>
