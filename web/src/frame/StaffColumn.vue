<script setup lang="ts">
// The staff: the picked rack top to bottom with its graduations, and below it
// the things elsewhere. What is picked here is what the sheet is about.
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
  <nav v-if="lab" class="staff" aria-label="Staff">
    <SheetTabs v-if="phone && work.rack" class="tabs" :without="lab.racks.size > 1 ? [] : ['all']" />
    <header v-if="work.rack">
      <button class="head" :aria-pressed="!work.deviceId" @click="((work.deviceId = ''), (work.cardOpen = true))">
        <h2 class="title">{{ work.rack.name }}</h2>
        <span class="soft">{{ facts }}</span>
      </button>
      <span class="free soft">{{ free }} U free</span>
      <router-link to="/walk" class="walk" aria-label="Walk through the gaps">walk ›</router-link>
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
  justify-content: space-between;
  padding: 9px 10px 8px;
}
.walk {
  padding: 6px 0;
  font: 500 14px var(--names);
  color: var(--water);
}
@media (max-width: 700px) {
  .walk {
    min-width: 54px;
    line-height: 32px;
    text-align: right;
  }
}
.tabs {
  margin: 10px 10px 0;
}
.head {
  text-align: left;
  line-height: 1.3;
}
.head span {
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
