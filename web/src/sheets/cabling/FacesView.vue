<script setup lang="ts">
// Every face of the rack or place with its ports, one below the other: to lead
// a cable from one thing to the next, and to see a trail light up.
import { computed, ref, watch } from 'vue'
import { api } from '../../api/address'
import type { Device, Schemas } from '../../api/client'
import { useLab } from '../../lab/useLab'
import { useReport } from '../../lab/useReport'
import { useWork } from '../../work/work'
import JackFace from './JackFace.vue'
import { usePartners } from '../../work/useCabling'

const emit = defineEmits<{ says: [words: string] }>()
const work = useWork()
const { lab } = useLab()
const { data } = useReport(() => (work.rack ? api('/api/v1/racks/{id}/wiring', { id: work.rack.id }) : ''))
const face = ref<Schemas['Face']>('front')
const devices = computed<Device[]>(() => work.inOrder.filter((d) => data.value?.jacks[d.id]?.some((j) => j.face === face.value)))
const ease = computed(() => data.value?.ease)
watch(
  ease,
  (e) => emit('says', e ? `${e.alone.length} of ${e.devices} can be removed alone${e.unsure ? `, ${e.unsure} unsure` : ''}` : ''),
  { immediate: true },
)

const may = usePartners(() => Object.keys(data.value?.jacks ?? {}))
</script>

<template>
  <div class="all">
    <div class="segments" role="group" aria-label="Face">
      <button v-for="f in ['front', 'rear'] as const" :key="f" :aria-pressed="face === f" @click="face = f">
        {{ f === 'front' ? 'Front' : 'Rear' }}
      </button>
    </div>
    <p v-if="ease?.advice" class="advice">{{ ease.advice }}.</p>
    <template v-if="lab && data">
      <JackFace v-for="d in devices" :key="d.id" :device="d" :jacks="data.jacks[d.id] ?? []" :face="face" :partners="may" small />
    </template>
    <p v-if="!work.rack" class="soft">Pick a rack on the staff; devices elsewhere are shown one at a time, under Trails.</p>
    <p v-else-if="data && !devices.length" class="soft">Nothing here has ports at its {{ face }}.</p>
  </div>
</template>

<style scoped>
.all {
  display: flex;
  flex-direction: column;
  align-items: stretch;
  gap: 4px;
  flex: 1;
  min-height: 0;
  margin: 0 18px;
  padding-bottom: 12px;
  overflow-y: auto;
}
.segments {
  align-self: flex-start;
  margin-bottom: 6px;
}
.advice {
  margin-bottom: 6px;
}
</style>
