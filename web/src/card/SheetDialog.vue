<script setup lang="ts">
// Picks the spec sheet of a device: one of the lab's, one of those that come
// with the program, or a new one made of what the device says itself.
import { computed, ref } from 'vue'
import type { Device } from '../api/client'
import { attempt, useLab } from '../lab/useLab'
import { hasWords, useSheets, type Sheet } from '../lab/useSheets'
import { kindWords, title } from '../lab/words'

const props = defineProps<{ device: Device }>()
const emit = defineEmits<{ close: [] }>()
const { send } = useLab()
const { own, generic, isOwn } = useSheets()
const words = ref('')

const found = computed(() => {
  const names = new Set(own.value.map((s) => s.name))
  const list = [...own.value, ...generic.value.filter((s) => !names.has(s.name))].filter((s) => hasWords(s, words.value))
  const alike = (s: Sheet) => (s.device_kind === props.device.device_kind ? 0 : 1)
  return list.sort((a, b) => alike(a) - alike(b))
})

async function take(id?: string) {
  if (await attempt(() => send('/api/v1/devices/{id}/sheet', { sheet_id: id ?? '' }, { id: props.device.id }))) emit('close')
}

async function make() {
  const name = words.value.trim() || [props.device.maker, props.device.model].filter(Boolean).join(' ') || `${title(props.device)}'s kind`
  if (await attempt(() => send('/api/v1/devices/{id}/sheet', { make: name }, { id: props.device.id }))) emit('close')
}
</script>

<template>
  <v-dialog :model-value="true" aria-label="Spec sheet" max-width="560" scrollable @update:model-value="emit('close')">
    <v-card>
      <v-card-title>Spec sheet of {{ title(device) }}</v-card-title>
      <v-card-text>
        <v-text-field
          v-model="words"
          label="Make and model, or kind of device"
          autofocus
          hide-details
          @keydown.enter="found[0] && take(found[0].id)" />
        <ul class="sheets">
          <li v-for="s in found" :key="s.id">
            <button :aria-pressed="s.id === device.sheet_id" @click="take(s.id)">
              <b>{{ s.name }}</b><span class="soft">{{ isOwn(s) ? kindWords(s.device_kind) : 'comes with Levelstaff' }}</span>
            </button>
          </li>
        </ul>
        <p v-if="!found.length" class="soft">No spec sheet by that name. You can make one from the facts of {{ title(device) }}.</p>
      </v-card-text>
      <v-card-actions>
        <v-btn @click="make">Make one from this device</v-btn>
        <v-btn v-if="device.sheet_id" @click="take()">No sheet</v-btn>
        <v-spacer />
        <v-btn @click="emit('close')">Cancel</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheets {
  margin-top: 8px;
  list-style: none;
}
.sheets button {
  display: flex;
  justify-content: space-between;
  gap: 12px;
  width: 100%;
  padding: 5px 2px;
  text-align: left;
  border-bottom: 1px solid var(--rule);
}
.sheets b {
  font: 600 14px var(--names);
}
.sheets button:hover b,
.sheets [aria-pressed='true'] b {
  color: var(--red);
}
</style>
