<script setup lang="ts">
// What going back to a change would do, before it is done.
import { onMounted, shallowRef } from 'vue'
import { api } from '../../api/address'
import { get, type Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'

const props = defineProps<{ revision: number }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send } = useLab()
const edits = shallowRef<Schemas['Edit'][]>()
const most = 200

onMounted(() =>
  attempt(async () => {
    edits.value = (await get(api('/api/v1/compare', { from: 'built', to: `at:${props.revision}` }))).edits
    return undefined
  }),
)

async function back() {
  await attempt(() => send('/api/v1/back', { revision: props.revision }))
  emit('close')
}
</script>

<template>
  <v-dialog :aria-label="`Back to change ${revision}`" :model-value="true" max-width="560" scrollable @update:model-value="emit('close')">
    <v-card border class="box">
      <h2>Back to change {{ revision }}</h2>
      <p>This undoes the {{ (lab?.revision ?? 0) - revision }} changes after it, as one change that can be undone itself:</p>
      <v-card-text class="list" tabindex="0">
        <ul>
          <li v-for="(e, i) in edits?.slice(0, most)" :key="i">
            <b>{{ e.title }}</b>{{ e.says }}
          </li>
        </ul>
        <p v-if="edits && edits.length > most" class="soft">and {{ edits.length - most }} more</p>
        <p v-if="edits && !edits.length" class="soft">The lab is as it was then; nothing would change.</p>
      </v-card-text>
      <div class="buttons">
        <v-btn autofocus :disabled="!edits?.length" @click="back">Go back</v-btn>
        <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.list {
  padding: 8px 0;
  max-height: 50vh;
}
ul {
  list-style: none;
  font-size: 14px;
}
b {
  font: 600 14px var(--names);
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
