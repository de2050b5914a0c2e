<script setup lang="ts">
// The staff: the picked rack top to bottom with its graduations, and below it
// the things elsewhere. What is picked here is what the sheet is about.
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useLab } from '../lab/useLab'
import { mm } from '../lab/words'
import { useWork } from '../work/work'
import { usePhone } from '../work/usePhone'
import SheetTabs from './SheetTabs.vue'
import StaffElsewhere from './StaffElsewhere.vue'
import StaffRack from './StaffRack.vue'

const work = useWork()
const phone = usePhone()
/** The drawing has its room; arrows still go along it. */
const folded = useLocalStorage('levelstaff.staff-folded', false)
const { lab, spaces } = useLab()
const forms = { '19in': '19 in', '10in': '10 in', own: 'own measures' }
const facts = computed(() => {
  const r = work.rack
  if (!r) return ''
  return [`${r.height_u}U`, r.form && forms[r.form], r.depth_mm && `${mm(r.depth_mm)} deep`].filter(Boolean).join(' · ')
})
const free = computed(() => spaces.value.get(work.rack?.id ?? '')?.free_u)
</script>

<template>
  <nav v-if="lab && folded && !phone" class="staff folded" aria-label="Staff">
    <button title="Unfold the staff" aria-label="Unfold the staff" :aria-expanded="false" @click="folded = false">
      <span aria-hidden="true">›</span> <b>{{ work.rack?.name ?? work.place?.name }}</b>
    </button>
  </nav>
  <nav v-else-if="lab" class="staff" aria-label="Staff">
    <SheetTabs v-if="phone && work.rack" class="tabs" :without="lab.racks.size > 1 ? [] : ['all']" />
    <header v-if="work.rack">
      <button class="head" :aria-pressed="!work.deviceId" @click="((work.deviceId = ''), (work.cardOpen = true))">
        <h2 class="title">{{ work.rack.name }}</h2>
        <span class="soft">{{ facts }}</span>
      </button>
      <span class="free soft">{{ free }} U free</span>
      <router-link to="/walk" class="walk" aria-label="Walk through the gaps">walk ›</router-link>
      <button
        v-if="!phone"
        class="fold"
        title="Fold the staff away"
        aria-label="Fold the staff"
        :aria-expanded="true"
        @click="folded = true">
        ‹
      </button>
    </header>
    <header v-else-if="work.place">
      <button class="head" @click="((work.deviceId = ''), (work.cardOpen = true))">
        <h2 class="title">{{ work.place.name }}</h2>
        <span class="soft">outside any rack</span>
      </button>
    </header>
    <div class="scroll" data-scroll>
      <StaffRack v-if="work.rack" :rack="work.rack" />
      <StaffElsewhere />
    </div>
  </nav>
</template>

<style scoped>
.staff {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--sheet);
  border-right: 1px solid var(--rule);
}
header {
  display: flex;
  align-items: baseline;
  gap: 6px;
  padding: 9px 4px 8px 10px;
}
.walk {
  padding: 6px 0;
  font: 500 14px var(--names);
  color: var(--water);
}
@media (max-width: 700px) {
  header {
    padding-right: 10px;
  }
  .walk {
    min-width: 54px;
    line-height: 32px;
    text-align: right;
  }
}
.staff.folded {
  width: auto;
}
.folded button {
  flex: 1;
  display: flex;
  align-items: center;
  gap: 8px;
  padding: 10px 6px;
  writing-mode: vertical-rl;
}
.folded span,
.fold {
  font: 500 18px/1 var(--names);
}
.fold {
  padding: 4px 6px;
  color: var(--soft);
}
.folded b {
  font: 600 14px var(--names);
}
.tabs {
  margin: 10px 10px 0;
}
.head {
  flex: 1;
  min-width: 0;
  text-align: left;
  line-height: 1.3;
}
.head span {
  white-space: nowrap;
  font-size: 12px;
}
.free {
  display: none;
}
.scroll {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0 10px 10px;
}
@media (max-width: 700px) {
  .staff {
    border-right: 0;
  }
  .head {
    min-height: 44px;
  }
  .free {
    display: block;
    font-size: 14px;
    white-space: nowrap;
  }
}
</style>
