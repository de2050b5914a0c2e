<script setup lang="ts">
// The frame that every sheet is in.
import { useEventListener, useMediaQuery, useTitle } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, onMounted, watch } from 'vue'
import { useRoute } from 'vue-router'
import { trialRack } from './api/core.gen'
import CardPanel from './card/CardPanel.vue'
import LevelBar from './frame/LevelBar.vue'
import NoticeLine from './frame/NoticeLine.vue'
import QuickLine from './frame/QuickLine.vue'
import StaffColumn from './frame/StaffColumn.vue'
import TopBar from './frame/TopBar.vue'
import ViewBand from './frame/ViewBand.vue'
import { prefetch, useSheet } from './frame/sheets'
import { followEvents, read, useLab } from './lab/useLab'
import { title } from './lab/words'
import { useKeys } from './work/useKeys'
import { useAddress } from './work/useAddress'
import { useWork } from './work/work'
import { usePhone } from './work/usePhone'

const TrialBand = defineAsyncComponent(() => import('./frame/TrialBand.vue'))
const PortCard = defineAsyncComponent(() => import('./sheets/cabling/PortCard.vue'))
const NetworkCard = defineAsyncComponent(() => import('./sheets/networks/NetworkCard.vue'))
const PowerCard = defineAsyncComponent(() => import('./sheets/power/PowerCard.vue'))
const ServiceCard = defineAsyncComponent(() => import('./sheets/services/ServiceCard.vue'))
const StorageCard = defineAsyncComponent(() => import('./sheets/storage/StorageCard.vue'))
const RemoveDialog = defineAsyncComponent(() => import('./card/RemoveDialog.vue'))
const boxes = {
  keys: defineAsyncComponent(() => import('./frame/KeysDialog.vue')),
  notation: defineAsyncComponent(() => import('./frame/NotationDialog.vue')),
  settings: defineAsyncComponent(() => import('./frame/LabSettings.vue')),
  files: defineAsyncComponent(() => import('./frame/FilesDialog.vue')),
  door: defineAsyncComponent(() => import('./frame/DoorDialog.vue')),
  find: defineAsyncComponent(() => import('./frame/FindDialog.vue')),
  fit: defineAsyncComponent(() => import('./card/FitDialog.vue')),
  remove: RemoveDialog,
}

const { lab } = useLab()
const work = useWork()
const route = useRoute()
const phone = usePhone()
const narrow = useMediaQuery('(max-width: 1056px)')
// Where the card is over the drawing, it opens for what is picked.
watch(
  () => work.deviceId,
  (id) => {
    if (narrow.value && !phone.value) work.cardOpen = !!id
  },
)
const onRack = computed(() => route.path.startsWith('/rack'))
const { sheet, tab } = useSheet()
/** What the sheet is about, for who cannot see it, and for the browser's list of pages. */
const about = computed(() =>
  [
    sheet.value?.name,
    tab.value?.path ? tab.value.text : '',
    work.device ? title(work.device) : (work.place?.name ?? work.rack?.name),
  ].filter(Boolean),
)
useTitle(computed(() => [...[...about.value].reverse(), lab.value?.settings.name ?? 'Levelstaff'].join(' · ')))
const trying = computed(() => lab.value?.view.kind === 'built' && lab.value.racks.has(trialRack))
/** On a phone the card is over everything. */
const covered = computed(
  () => phone.value && (ported.value || (carded.value && work.cardOpen && !!(work.device ?? work.place ?? work.rack))),
)
// Focus goes back to where it was before a box was opened.
let before: Element | null = null
watch(
  () => work.dialog,
  async (now, was) => {
    if (now && !was) before = document.activeElement
    if (now) return
    await nextTick()
    const to = before?.isConnected && before.checkVisibility() ? before : document.getElementById('lab-menu')
    if (before !== document.body && to instanceof HTMLElement) to.focus()
  },
  { flush: 'sync' },
)
const toCard = () => document.getElementById('card')?.focus()
/** Sheets that are about one thing at a time show its card; the others need the room. */
const carded = computed(() => sheet.value?.side.includes('card'))
/** Where ports are drawn, the port that is picked has the card. */
const ported = computed(() => sheet.value?.side.includes('port') && !!work.port && !(phone.value && (work.leading || onRack.value)))
/** Where the network is drawn, its own card is there while no device is picked. */
const netted = computed(() => sheet.value?.side.includes('network') && !work.device)
/** And so are those of power, of storage and of services. */
const powered = computed(() => sheet.value?.side.includes('power') && !work.device)
const stored = computed(() => sheet.value?.side.includes('storage') && !work.device)
const served = computed(() => sheet.value?.side.includes('service') && !work.device)
/** On a phone the staff is the sheet, or the drawing is. */
const staffed = computed(() => !sheet.value?.wide && !tab.value?.wide && (!phone.value || !!tab.value?.phone))
const drawn = computed(() => !phone.value || !tab.value?.phone || !lab.value?.racks.size)

// Another window may have changed the lab meanwhile.
useEventListener(window, 'focus', () => void read())
useKeys()
useAddress()
// Not needed to draw, but to be there when the first fact is edited, or
// something is looked for, or another sheet is opened. What cannot be fetched now is
// when it is wanted.
onMounted(() =>
  setTimeout(
    () =>
      void Promise.all([import('./card/FactField.vue'), import('./frame/FindDialog.vue')])
        .then(prefetch)
        .catch(() => undefined),
    300,
  ),
)
onMounted(followEvents)
</script>

<template>
  <v-app>
    <div class="frame">
      <h1 v-if="sheet" class="sr-only">{{ about.join(': ') }}</h1>
      <a v-if="(carded || ported) && !phone" class="skip" href="#card" @click.prevent="toCard">To the card</a>
      <div class="top" :inert="covered">
        <TopBar />
        <ViewBand />
        <TrialBand v-if="trying" />
      </div>
      <StaffColumn v-if="staffed && (lab?.racks.size || lab?.places.size)" class="staff" :inert="covered" />
      <router-view v-if="drawn" class="sheet" :inert="covered" />
      <PortCard v-if="ported" class="side" />
      <NetworkCard v-else-if="netted" class="side" />
      <PowerCard v-else-if="powered" class="side" />
      <StorageCard v-else-if="stored" class="side" />
      <ServiceCard v-else-if="served" class="side" />
      <CardPanel v-else-if="carded" class="side" />
      <LevelBar v-if="!phone" class="foot" />
      <div v-else-if="sheet" class="thumb" :inert="covered"><NoticeLine /><QuickLine /></div>
    </div>
    <component :is="boxes[work.dialog]" v-if="work.dialog" />
  </v-app>
</template>

<style scoped>
.frame {
  display: grid;
  height: 100dvh;
  grid-template: 'top top top' auto 'staff sheet side' minmax(0, 1fr) 'foot foot foot' auto / auto minmax(0, 1fr) auto;
}
.skip {
  position: absolute;
  z-index: 40;
  top: -40px;
  left: 8px;
  padding: 6px 12px;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.skip:focus-visible {
  top: 6px;
}
.top {
  grid-area: top;
}
.staff {
  grid-area: staff;
  width: 214px;
}
.sheet {
  grid-area: sheet;
  min-height: 0;
}
.side {
  grid-area: side;
  width: 332px;
}
.foot {
  grid-area: foot;
}
.thumb {
  grid-area: foot;
  padding: 10px 14px;
  background: var(--sheet);
  border-top: 1px solid var(--rule);
}
@media (max-width: 700px) {
  .frame {
    grid-template: 'top' auto 'staff' minmax(0, 1fr) 'foot' auto / minmax(0, 1fr);
  }
  .sheet {
    grid-area: staff;
  }
  .staff,
  .side {
    width: auto;
  }
}
</style>
