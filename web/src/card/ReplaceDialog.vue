<script setup lang="ts">
// Puts another device where this one is and keeps its cables by the names of
// their ports; what finds no port is told before it is done.
import { computed, ref, watch } from 'vue'
import { post, Refused, type Device, type Schemas } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { kindWords, title, whereWords } from '../lab/words'
import { useWork } from '../work/work'

const props = defineProps<{ device: Device }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send } = useLab()
const work = useWork()
const chosen = ref('')
const carried = ref<Schemas['Carry'][]>()
const wrong = ref('')
/** Alike things first, those that are not in use before those that are. */
const others = computed(() => {
  const rank = (d: Device) => (d.device_kind === props.device.device_kind ? 0 : 2) + (d.at && d.state === 'running' ? 1 : 0)
  return [...(lab.value?.devices.values() ?? [])].filter((d) => d.id !== props.device.id).sort((a, b) => rank(a) - rank(b) || title(a).localeCompare(title(b)))
})
const words = (d: Device) => [title(d), kindWords(d.device_kind), lab.value && whereWords(lab.value, d)].filter(Boolean).join(', ')
watch(chosen, async (id) => {
  carried.value = undefined
  wrong.value = ''
  if (!id) return
  try {
    const answer = await post<Schemas['Replaced']>('/api/v1/replacements/check', { old_id: props.device.id, new_id: id })
    if (id === chosen.value) carried.value = answer.carried
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    wrong.value = e.message
  }
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
        <p class="soft">The other one takes its place and its cables, port by port. This one is then placed nowhere{{ device.state === 'faulty' || device.state === 'leaving' ? `, and still ${device.state}` : ', a spare' }}.</p>
        <p class="with"><label>With <select v-model="chosen" class="field" aria-label="With"><option value="">which device?</option><option v-for="d in others" :key="d.id" :value="d.id">{{ words(d) }}</option></select></label></p>
        <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
        <template v-if="carried">
          <p><b>{{ kept.length }} of {{ carried.length }}</b> cables carry over{{ left.length ? '; these are left open:' : '.' }}</p>
          <p v-if="optics.length">With their transceivers: {{ optics.map((c) => c.to).join(', ') }}.</p>
          <ul v-if="left.length" aria-label="Left open">
            <li v-for="c in left" :key="c.cable_id + c.from"><b class="figure">{{ c.from }}</b> <span class="bad">{{ c.why }}</span></li>
          </ul>
        </template>
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="emit('close')">Leave it</v-btn>
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
