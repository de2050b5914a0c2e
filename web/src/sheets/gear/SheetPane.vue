<script setup lang="ts">
// One spec sheet: how a thing that has it looks, what it says, who has it.
import { computed, ref } from 'vue'
import type { Device, Schemas } from '../../api/client'
import FactList from '../../card/FactList.vue'
import FactRow from '../../card/FactRow.vue'
import { kinds } from '../../card/choices'
import DeviceFace from '../../draw/DeviceFace.vue'
import { unitMM } from '../../draw/scale'
import { attempt, useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { capital, kindWords, spaced, title } from '../../lab/words'
import { useShow } from '../../work/useShow'

const props = defineProps<{ sheet: Schemas['SpecSheet']; mine: boolean; fixed: boolean }>()
const emit = defineEmits<{ copy: []; gone: [] }>()
const { lab, send, remove } = useLab()
const { show } = useShow()
const all = ref(false)
const key = computed(() => ({ kind: 'spec_sheet' as const, id: props.sheet.id }))
const { data } = useReport<Schemas['SheetCard']>(() => `/api/v1/spec_sheets/${encodeURIComponent(props.sheet.id)}/card`)
const kindChoices = kinds.map((k: Schemas['DeviceKind']) => ({ value: kindWords(k).toLowerCase(), title: kindWords(k) }))
const sections = computed(() =>
  [
    { name: 'Measures', group: 'measures' },
    { name: 'Inside', group: 'inside' },
    { name: 'Ports', group: 'ports' },
    { name: 'Power and noise', group: 'power' },
    { name: 'Make', group: undefined },
  ]
    .map((s) => ({ ...s, facts: (data.value?.facts ?? []).filter((f) => f.group === s.group && f.field !== 'notes') }))
    .filter((s) => s.facts.some((f) => f.text || (all.value && props.mine))),
)
const users = computed(() => (data.value?.devices ?? []).flatMap((id) => lab.value?.devices.get(id) ?? []))

/** A thing of this make, as it would stand in a rack. */
const thing = computed<Device>(() => ({ ...props.sheet, name: props.sheet.name, state: 'running', at: { where: 'units' } }) as Device)
const scale = 1.02 // of a picture that is as wide as a rack's face
const wide = 482.6 * scale
const high = computed(() => Math.max(props.sheet.takes_u ?? 1, (props.sheet.height_mm ?? 0) / unitMM) * unitMM * scale)
const faces = computed(() => [
  { name: 'front', back: false },
  { name: 'rear', back: true },
])

async function gone() {
  if (await attempt(() => send('/api/v1/changes', { changes: [remove(key.value)] }))) emit('gone')
}
</script>

<template>
  <article class="pane">
    <h1>{{ sheet.name }}</h1>
    <p class="soft">{{ kindWords(sheet.device_kind) }}{{ mine || fixed ? '' : ' · comes with Levelstaff; copy it into this lab to change it' }}</p>
    <div class="faces">
      <figure v-for="f in faces" :key="f.name">
        <svg :viewBox="`0 0 ${wide} ${high}`" role="img" :aria-label="`${sheet.name}, ${f.name}`"><DeviceFace :device="thing" :box="{ x: 0, y: 0, w: wide, h: high }" :scale="scale" :back="f.back" /></svg>
        <figcaption class="soft">{{ f.name }}</figcaption>
      </figure>
    </div>
    <div class="facts">
      <section v-if="mine">
        <FactRow :record="key" field="name" label="Name" :text="sheet.name" gap="name" />
        <FactRow :record="key" field="device_kind" label="Kind" :text="kindWords(sheet.device_kind)" :typed="kindWords(sheet.device_kind).toLowerCase()" :choices="kindChoices" />
        <FactRow :record="key" field="notes" label="Notes" :text="sheet.notes" gap="none" long />
      </section>
      <section v-for="s in sections" :key="s.name">
        <h2>{{ s.name }}</h2>
        <FactList v-if="mine" :record="key" :facts="s.facts" :all="all" />
        <dl v-else>
          <template v-for="f in s.facts.filter((f) => f.text)" :key="f.field"><dt>{{ capital(f.name) }}</dt><dd class="figure">{{ spaced(f.text ?? '') }}</dd></template>
        </dl>
      </section>
      <section v-if="users.length">
        <h2>Has it</h2>
        <ul><li v-for="d in users" :key="d.id"><button @click="show({ kind: 'device', id: d.id })">{{ title(d) }}</button></li></ul>
      </section>
    </div>
    <div class="buttons">
      <v-btn v-if="mine" @click="all = !all">{{ all ? 'Fewer facts' : 'All facts' }}</v-btn>
      <v-btn v-if="!fixed" @click="emit('copy')">{{ mine ? 'Copy it' : 'Copy it into this lab' }}</v-btn>
      <v-btn :href="`/api/v1/files/sheets.json?id=${encodeURIComponent(sheet.id)}`" download>Save it as a file</v-btn>
      <v-btn v-if="mine" :disabled="users.length > 0" :title="users.length ? 'Some things have it' : ''" @click="gone">Remove it</v-btn>
    </div>
  </article>
</template>

<style scoped>
.pane {
  min-height: 0;
  padding: 14px 24px 24px;
  overflow-y: auto;
}
h1 {
  font-size: 20px;
}
.faces {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 492px));
  gap: 16px;
  margin: 12px 0 6px;
}
figure {
  margin: 0;
}
svg {
  display: block;
  width: 100%;
  max-height: 170px;
}
figcaption {
  font-size: 13px;
}
.facts {
  columns: 2 320px;
  column-gap: 36px;
}
section {
  margin-bottom: 14px;
  break-inside: avoid;
}
h2 {
  margin: 4px 0 2px;
  font-size: 14px;
  color: var(--soft);
}
dl {
  display: grid;
  grid-template-columns: 130px 1fr;
}
dt,
dd {
  padding: 4px 0;
  border-bottom: 1px solid var(--rule);
}
dt {
  font-size: 13px;
  color: var(--soft);
}
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  list-style: none;
}
li button {
  color: var(--water);
  text-decoration: underline;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
@media (max-width: 700px) {
  .pane {
    padding: 12px 14px 20px;
  }
  .faces {
    grid-template-columns: 1fr;
  }
}
</style>
