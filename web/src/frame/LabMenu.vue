<script setup lang="ts">
// Which lab is looked at, and what holds for it as a whole. The menu itself is
// read when it is first opened.
import { computed, defineAsyncComponent, ref } from 'vue'
import { useLab } from '../lab/useLab'
import { days } from '../lab/words'
import { useDrafts } from '../work/useDrafts'

const LabMenuList = defineAsyncComponent(() => import('./LabMenuList.vue'))

const { lab } = useLab()
const { chosen } = useDrafts()
const open = ref(false)
const opened = ref(false)
const looked = computed(() => {
  const view = lab.value?.view
  if (chosen.value) return `Draft: ${chosen.value.name}`
  if (view?.kind === 'past') return view.on ? days(view.on) : `Change ${view.revision}`
  return 'As built'
})

function toggle() {
  opened.value = true
  open.value = !open.value
}
</script>

<template>
  <v-btn
    id="lab-menu"
    height="32"
    class="built"
    :class="lab?.view.kind"
    aria-haspopup="menu"
    :aria-expanded="open"
    :aria-label="`${looked}: drafts, past days, settings, files, keys`"
    @click="toggle"
    ><span>{{ looked }}</span> ▾</v-btn
  >
  <LabMenuList v-if="opened" v-model="open" />
</template>

<style scoped>
.built {
  padding: 0 12px;
  margin-left: 6px;
  max-width: 190px;
}
.built.draft {
  color: var(--red);
}
.built span {
  margin-right: 5px;
  overflow: hidden;
  text-overflow: ellipsis;
}
@media (max-width: 700px) {
  .built {
    max-width: 128px;
    margin-left: 0;
    padding: 0 8px;
  }
}
</style>
