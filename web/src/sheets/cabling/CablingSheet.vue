<script setup lang="ts">
// The Cabling sheet: where each port leads, every lead, the runs through the
// building, ports left, what is to buy, ways in, labels.
import { computed, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Device } from '../../api/client'
import SheetFrame from '../../frame/SheetFrame.vue'
import { useSheet } from '../../frame/sheets'
import { useLab } from '../../lab/useLab'
import { title, traitsOf } from '../../lab/words'
import { useWork } from '../../work/work'
import { useCabling } from '../../work/useCabling'
import TakenNote from './TakenNote.vue'

const route = useRoute()
const work = useWork()
const { lab } = useLab()
const { endWords } = useCabling()
const { tab } = useSheet()
const shown = computed(() => tab.value?.path ?? '')
const says = ref('')
const drawn = computed(() => !shown.value || shown.value === 'faces')
const about = computed(() =>
  [!shown.value && work.device ? title(work.device) : shown.value === 'faces' ? work.rack?.name : '', says.value]
    .filter(Boolean)
    .join(' · '),
)
const trailsFile = computed(() => `/api/v1/files/trails.svg${work.device ? `?device_id=${work.device.id}` : ''}`)

watch(shown, () => (says.value = ''))

const isSwitch = (d: Device) => traitsOf(d.device_kind).bridges

/** Where nothing is picked, what has the most to follow. */
watch(
  lab,
  (now) => {
    if (!now || work.device || route.query['cable']) return
    const first = work.inOrder.find(isSwitch) ?? [...now.devices.values()].find(isSwitch)
    if (first) work.pick(first.id)
  },
  { immediate: true },
)
</script>

<template>
  <SheetFrame :title="work.device && !shown ? `Cabling, ${title(work.device)}` : 'Cabling'">
    <template #bar>
      <p v-if="drawn" class="soft about" role="status">{{ about }}</p>
      <a v-if="!shown && work.device" class="soft save" :href="trailsFile" download>SVG</a>
    </template>
    <div v-if="work.leading && drawn" class="leading">
      <p role="status">
        Connecting a cable from {{ endWords(work.port) }}: pick its other end. <button @click="work.leading = false">Cancel</button>
      </p>
      <TakenNote />
    </div>
    <p v-if="lab && !lab.devices.size" class="none">
      Nothing documented yet. Type what is in the rack first, then what is plugged into what: core/1-24 - PP1/1-24 0.25m yellow cat6.
    </p>
    <component :is="tab.is" v-else-if="tab" @says="says = $event" />
  </SheetFrame>
</template>

<style scoped>
.about {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.save {
  color: var(--water);
}
.leading {
  margin: 0 18px 8px;
  padding: 6px 10px;
  background: var(--sheet);
  border-left: 3px solid var(--water);
}
.leading button {
  text-decoration: underline;
}
.none {
  padding: 20px;
}
</style>
