<script setup lang="ts">
// "Would this fit, and where?" for something one does not own yet: a spec
// sheet, or what the advertisement says. Every rack answers.
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api } from '../api/address'
import { latest } from '../api/latest'
import { get, type Schemas } from '../api/client'
import { useSheets } from '../lab/useSheets'
import { useWork } from '../work/work'
import FitLines from './FitLines.vue'

const { own, generic } = useSheets()
const work = useWork()
const text = ref('server, 2U high, 447mm wide, 710mm deep, on rails')
const sheet = ref<string | null>(null)
const part = ref<Schemas['Portion']>('whole')
const found = shallowRef<Schemas['Fitting']>()
const wrong = ref('')

const sheets = computed(() => [...own.value, ...generic.value].map((s) => ({ value: s.id, title: s.name })))
const parts = [
  { value: 'whole' as const, title: 'the whole width' },
  { value: 'half' as const, title: 'half of it' },
  { value: 'third' as const, title: 'a third of it' },
]
const words = { fits: 'fits', unchecked: 'not sure', no: 'no' }

const { ask: latestOnly } = latest()
const ask = useDebounceFn(
  () =>
    latestOnly(
      () => get(api('/api/v1/fitting', { portion: part.value, ...(sheet.value ? { sheet_id: sheet.value } : { text: text.value }) })),
      (answer) => {
        found.value = answer
        wrong.value = ''
      },
      (why) => (wrong.value = why),
    ),
  120,
)
watch([text, sheet, part], () => void ask(), { immediate: true })

function start(place: Schemas['Places'], range: string) {
  work.pickRack(place.rack_id)
  work.dialog = ''
  work.line = `${range} `
  document.getElementById('quick-line')?.focus()
}
const spans = (p: Schemas['Places'], face: string) => p.spots.filter((s) => s.face === face)
</script>

<template>
  <v-dialog :model-value="true" aria-label="Does it fit?" max-width="680" scrollable @update:model-value="work.dialog = ''">
    <v-card>
      <v-card-title>Does it fit, and where?</v-card-title>
      <v-card-text class="ask">
        <v-autocomplete v-model="sheet" :items="sheets" label="A spec sheet" clearable hide-details />
        <v-text-field v-if="!sheet" v-model="text" label="Or the facts from the listing" :error-messages="wrong" autofocus />
        <v-select v-model="part" :items="parts" label="It takes" hide-details />
        <ul v-if="found" class="racks" aria-label="Racks">
          <li v-for="p in found.places" :key="p.rack_id" :class="p.outcome">
            <h3>
              {{ p.rack }} <span class="figure">{{ words[p.outcome] }}</span>
            </h3>
            <p v-for="face in ['front', 'rear']" v-show="spans(p, face).length" :key="face" class="spots">
              {{ face }}:
              <button v-for="s in spans(p, face)" :key="s.unit + s.share" :class="s.outcome" :title="s.say" @click="start(p, s.range)">
                {{ s.range }}{{ s.share === 'whole' ? '' : ` ${s.share}` }}{{ s.outcome === 'unchecked' ? ' ?' : '' }}
              </button>
            </p>
            <p v-if="p.checks.every((c) => c.outcome !== 'no') && !p.spots.length && !p.clear.length" class="soft">
              No {{ found.units }}U free in one piece, and nothing there that is off or leaving.
            </p>
            <p v-for="c in p.clear" :key="c.unit" class="soft">{{ c.range }} would be free without {{ c.titles.join(' and ') }}.</p>
            <FitLines :checks="p.checks" />
          </li>
        </ul>
        <section v-if="found?.plugs.length" aria-label="Outlets">
          <h3>
            Where it could be plugged in
            <span class="figure">{{ found.draws_w === undefined ? 'what it draws is not known' : `${Math.round(found.draws_w)} W` }}</span>
          </h3>
          <ul class="racks plugs">
            <li v-for="p in found.plugs" :key="p.device_id" :class="p.takes ? 'fits' : 'no'">
              <b>{{ p.title }}</b> {{ p.free }} free,
              <template v-if="p.left_w === undefined">no limit known</template>
              <template v-else>{{ Math.round(p.left_w) }} W left{{ p.by ? ` by ${p.by}` : '' }}</template
              >{{ p.held ? ', held by a battery' : '' }}{{ p.takes ? '' : ': too little' }}
            </li>
          </ul>
        </section>
      </v-card-text>
      <v-card-actions><v-spacer /><v-btn @click="work.dialog = ''">Done</v-btn></v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.ask {
  display: flex;
  flex-direction: column;
  gap: 16px;
  padding-top: 10px;
}
.racks {
  list-style: none;
}
.racks > li {
  padding: 8px 0 8px 12px;
  border-left: 4px solid var(--soft);
  border-bottom: 1px solid var(--rule);
}
.racks > .fits {
  border-left-color: var(--moss);
}
.racks > .no {
  border-left-color: var(--red);
}
h3 span {
  margin-left: 8px;
  color: var(--soft);
  font-weight: 400;
}
.spots button {
  margin: 2px 4px 2px 0;
  padding: 2px 8px;
  font: 500 13px var(--figures);
  border: 1px solid var(--moss);
  border-radius: 2px;
}
@media (max-width: 700px) {
  .spots button {
    min-height: 44px;
  }
}
.spots .unchecked {
  border: 1px dashed var(--soft);
}
</style>
