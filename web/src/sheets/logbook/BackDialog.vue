<script setup lang="ts">
// What going back to a change would do, before it is done.
import { onMounted, shallowRef } from 'vue'
import { api } from '../../api/address'
import { get, type Schemas } from '../../api/client'
import { attempt, useLab } from '../../lab/useLab'

const props = defineProps<{ revision: number }>()
const emit = defineEmits<{ close: [] }>()
const { lab, send } = useLab()
/** The changes that it undoes, the latest first. */
const undone = shallowRef<Schemas['LogEntry'][]>()
const most = 200
/** Only what is shown here is undone: a change that comes meanwhile is refused. */
const now = lab.value?.revision ?? 0
const count = now - props.revision

onMounted(() =>
  attempt(async () => {
    const { entries } = await get(api('/api/v1/logbook', { limit: most }))
    undone.value = entries.filter((e) => e.revision > props.revision)
    return undefined
  }),
)

async function back() {
  await attempt(() => send('/api/v1/back', { base_revision: now, revision: props.revision }))
  emit('close')
}
</script>

<template>
  <v-dialog :aria-label="`Back to change ${revision}`" :model-value="true" max-width="560" scrollable @update:model-value="emit('close')">
    <v-card border class="box">
      <h2>Back to change {{ revision }}</h2>
      <p>
        {{ count === 1 ? 'This undoes the change after it' : `This undoes the ${count} changes after it` }}, as one change that can be
        undone itself:
      </p>
      <v-card-text class="list" tabindex="0">
        <ul>
          <li v-for="e in undone" :key="e.revision">
            <span class="figure soft">#{{ e.revision }}</span> {{ e.label }}
          </li>
        </ul>
        <p v-if="undone && count > undone.length" class="soft">and {{ count - undone.length }} earlier ones</p>
      </v-card-text>
      <div class="buttons">
        <v-btn autofocus :disabled="!undone" @click="back">Go back</v-btn>
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
  letter-spacing: normal;
  padding: 8px 0;
  max-height: 50vh;
}
ul {
  list-style: none;
  font-size: 14px;
}
.buttons {
  display: flex;
  gap: 8px;
  margin-top: 14px;
}
</style>
