<script setup lang="ts">
// One spec sheet: how a thing that has it looks, what it says, who has it.
import { computed } from 'vue'
import type { Device, Schemas } from '../../api/client'
import RecordCard from '../../card/RecordCard.vue'
import { useCard } from '../../card/useCard'
import DeviceFace from '../../draw/DeviceFace.vue'
import { unitMM } from '../../draw/scale'
import { attempt, useLab } from '../../lab/useLab'

const props = defineProps<{ sheet: Schemas['SpecSheet']; mine: boolean; fixed: boolean }>()
const emit = defineEmits<{ copy: []; gone: [] }>()
const { send, remove } = useLab()
const key = computed(() => ({ kind: 'spec_sheet' as const, id: props.sheet.id }))
const { data: card } = useCard(() => key.value)
const users = computed(() => card.value?.things.length ?? 0)

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
  <article class="pane card">
    <RecordCard :record="key" :card="card" :still="!mine">
      <template #head>
        <p v-if="!mine && !fixed" class="soft">Included with Levelstaff; copy it into this lab to change it.</p>
        <div class="faces">
          <figure v-for="f in faces" :key="f.name">
            <svg :viewBox="`0 0 ${wide} ${high}`" role="img" :aria-label="`${sheet.name}, ${f.name}`">
              <DeviceFace :device="thing" :box="{ x: 0, y: 0, w: wide, h: high }" :scale="scale" :back="f.back" />
            </svg>
            <figcaption class="soft">{{ f.name }}</figcaption>
          </figure>
        </div>
      </template>
      <template #remove>
        <v-btn v-if="!fixed" @click="emit('copy')">{{ mine ? 'Copy it' : 'Copy it into this lab' }}</v-btn>
        <v-btn :href="`/api/v1/files/sheets.json?id=${encodeURIComponent(sheet.id)}`" download>Export</v-btn>
        <v-btn v-if="mine" :disabled="users > 0" :title="users ? 'Some devices use it' : ''" @click="gone">Remove it</v-btn>
      </template>
    </RecordCard>
  </article>
</template>

<style scoped>
.pane {
  min-height: 0;
  padding: 14px 24px 24px;
  overflow-y: auto;
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
.pane :deep(.groups) {
  columns: 2 320px;
  column-gap: 36px;
}
.pane :deep(section) {
  margin-bottom: 14px;
  break-inside: avoid;
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
