<script setup lang="ts">
// Puts another device where this one is and keeps its cables by the names of
// their ports; what finds no port is reported before it is done.
import { computed, ref, watch } from 'vue'
import { api } from '../api/address'
import { latest } from '../api/latest'
import { post, type Device, type Schemas } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { whatIs, title } from '../lab/words'
import { useWork } from '../work/work'

const props = defineProps<{ device: Device }>()
const emit = defineEmits<{ close: [] }>()
const { send } = useLab()
const work = useWork()
const chosen = ref('')
const carried = ref<Schemas['Carry'][]>()
const wrong = ref('')
/** Alike things first, those that are not in use before those that are. */
const { data: table } = useReport(() => api('/api/v1/tables/devices', { columns: 'name,device_kind,at,state' }))
const others = computed(() => {
  const rows = (table.value?.rows ?? []).filter((r) => r.id !== props.device.id)
  return rows
    .map(({ id, cells: [name, kind, at, state] }) => ({
      id,
      words: [name, kind, at ? at.replaceAll('"', '') : 'not placed yet'].filter(Boolean).join(', '),
      rank: (kind === whatIs(props.device) ? 0 : 2) + (at && state === 'running' ? 1 : 0),
    }))
    .sort((a, b) => a.rank - b.rank || a.words.localeCompare(b.words))
})
const { ask } = latest()
watch(chosen, async (id) => {
  carried.value = undefined
  wrong.value = ''
  await ask(
    async () => (id ? (await post('/api/v1/replacements/check', { old_id: props.device.id, new_id: id })).carried : undefined),
    (answer) => (carried.value = answer),
    (why) => (wrong.value = why),
  )
})
const kept = computed(() => carried.value?.filter((c) => c.to) ?? [])
const optics = computed(() => kept.value.filter((c) => c.optic))
const left = computed(() => carried.value?.filter((c) => !c.to) ?? [])
async function replace() {
  if (!(await attempt(() => send('/api/v1/replacements', { old_id: props.device.id, new_id: chosen.value })))) return
  work.pick(chosen.value)
  emit('close')
}
</script>

<template>
  <v-dialog :aria-label="`Replace ${title(device)}`" :model-value="true" max-width="560" scrollable @update:model-value="emit('close')">
    <v-card border>
      <v-card-text>
        <h2>Replace {{ title(device) }}</h2>
        <p class="soft">
          The new device takes its place and its cables, port by port. This one becomes unplaced{{
            device.state === 'faulty' || device.state === 'leaving' ? `, and still ${device.state}` : ', a spare'
          }}.
        </p>
        <p class="with">
          <label
            >With
            <select v-model="chosen" class="field" aria-label="With">
              <option value="">which device?</option>
              <option v-for="d in others" :key="d.id" :value="d.id">{{ d.words }}</option>
            </select></label
          >
        </p>
        <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
        <template v-if="carried">
          <p>
            <b>{{ kept.length }} of {{ carried.length }}</b> cables carry over{{ left.length ? '; these are left open:' : '.' }}
          </p>
          <p v-if="optics.length">With their transceivers: {{ optics.map((c) => c.to).join(', ') }}.</p>
          <ul v-if="left.length" aria-label="Left open">
            <li v-for="c in left" :key="c.cable_id + c.from">
              <b class="figure">{{ c.from }}</b> <span class="bad">{{ c.why }}</span>
            </li>
          </ul>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
        <v-btn :disabled="!carried" @click="replace">Replace</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.with {
  margin: 10px 0;
}
select {
  max-width: 100%;
}
ul {
  margin-top: 4px;
  list-style: none;
}
.bad {
  color: var(--red);
}
</style>
