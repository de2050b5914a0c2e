<script setup lang="ts">
// The drawing's title block: lab, sheet, number of the latest change.
import { computed } from 'vue'
import { useLab } from '../lab/useLab'
import { usePhone } from '../work/usePhone'
import NoticeLine from './NoticeLine.vue'

defineProps<{ sheet: string }>()
const { lab } = useLab()
const phone = usePhone()
const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })
const cells = computed(() => ({ lab: lab.value?.settings.name ?? 'Unnamed', change: `#${lab.value?.revision ?? 0} · ${today}` }))
</script>

<template>
  <footer class="foot">
    <div class="left">
      <NoticeLine v-if="!phone" />
      <slot />
    </div>
    <dl class="block">
      <div>
        <dt>Lab</dt>
        <dd>{{ cells.lab }}</dd>
      </div>
      <div>
        <dt>Sheet</dt>
        <dd>{{ sheet }}</dd>
      </div>
      <div>
        <dt>Change</dt>
        <dd>{{ cells.change }}</dd>
      </div>
    </dl>
  </footer>
</template>

<style scoped>
.foot {
  margin-top: auto;
  display: flex;
  align-items: flex-end;
  justify-content: space-between;
  gap: 16px;
  padding: 0 14px 10px 18px;
}
.left {
  min-width: 0;
  flex: 1;
}
.block {
  display: flex;
  flex: none;
  background: var(--sheet);
  border: 1px solid var(--ink);
}
.block div {
  padding: 2px 10px 3px;
  border-right: 1px solid var(--rule);
}
.block div:last-child {
  border-right: 0;
}
/* A phone has no room for it beside what it is about; paper has. */
@media screen and (max-width: 700px) {
  .foot {
    padding: 0 10px 4px;
  }
  .block {
    display: none;
  }
}
dt {
  font-size: 12px;
  line-height: 1.2;
  color: var(--soft);
}
dd {
  margin: 0;
  font: 500 13px/1.25 var(--names);
  white-space: nowrap;
}
</style>
