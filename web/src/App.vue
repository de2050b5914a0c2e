<script setup lang="ts">
// The frame that every sheet is in.
import { useEventListener, useMediaQuery } from '@vueuse/core'
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { Refused } from './api/client'
import CardPanel from './card/CardPanel.vue'
import RemoveDialog from './card/RemoveDialog.vue'
import KeysDialog from './frame/KeysDialog.vue'
import LevelBar from './frame/LevelBar.vue'
import QuickLine from './frame/QuickLine.vue'
import StaffColumn from './frame/StaffColumn.vue'
import TopBar from './frame/TopBar.vue'
import { say, useLab } from './lab/useLab'
import { useKeys } from './work/useKeys'
import { useWork } from './work/work'

const { lab, refresh } = useLab()
const work = useWork()
const route = useRoute()
const phone = useMediaQuery('(max-width: 700px)')
/** The text needs the room of the card, and of the staff. */
const onRack = computed(() => route.path.startsWith('/rack'))
const drawn = computed(() => !phone.value || !onRack.value || !lab.value?.racks.size)

async function read() {
  try {
    await refresh()
  } catch (e) {
    if (!(e instanceof Refused)) throw e
    say(e.message, true)
  }
}
void read()
// Another window may have changed the lab meanwhile.
useEventListener(window, 'focus', () => void read())
useKeys()
</script>

<template>
  <v-app>
    <div class="frame" :class="{ wide: !onRack, carded: onRack && (work.device || work.rack || work.place) }">
      <TopBar class="top" />
      <StaffColumn v-if="onRack && (lab?.racks.size || lab?.places.size)" class="staff" />
      <router-view v-if="drawn" class="sheet" />
      <CardPanel v-if="onRack" class="side" />
      <LevelBar v-if="!phone" class="foot" />
      <div v-else-if="onRack" class="thumb"><QuickLine /></div>
    </div>
    <KeysDialog />
    <RemoveDialog />
  </v-app>
</template>

<style scoped>
.frame {
  display: grid;
  height: 100dvh;
  grid-template: 'top top top' auto 'staff sheet side' minmax(0, 1fr) 'foot foot foot' auto / auto minmax(0, 1fr) auto;
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
@media (max-width: 1100px) {
  .side {
    width: 280px;
  }
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
