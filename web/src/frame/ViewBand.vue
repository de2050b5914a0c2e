<script setup lang="ts">
// Says, while it is not the lab as built, which lab is looked at, and leads
// back.
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { attempt, useLab } from '../lab/useLab'
import { days } from '../lab/words'
import { useDrafts } from '../work/useDrafts'
import { look } from '../lab/useLab'

const { lab } = useLab()
const { chosen, effect } = useDrafts()
const router = useRouter()
const past = computed(() => {
  const view = lab.value?.view
  if (view?.kind !== 'past') return ''
  return view.on
    ? `The lab as it was on ${days(view.on)}, after change ${view.revision ?? 0}`
    : `The lab as it was after change ${view.revision ?? 0}`
})
const stepsLeft = computed(() => {
  const n = effect.value?.steps.filter((s) => !s.step.done_on).length ?? 0
  return n === 1 ? '1 step left' : `${n} steps left`
})
const broken = computed(() => effect.value?.steps.filter((s) => s.why).length ?? 0)
const back = () => attempt(async () => void (await look('')))
</script>

<template>
  <div v-if="lab && lab.view.kind !== 'built'" class="band" :class="lab.view.kind" role="status">
    <template v-if="past"
      ><b>{{ past }}.</b> <span>Read only.</span></template
    >
    <template v-else>
      <b>Draft: {{ chosen?.name }}.</b>
      <span class="what">Your changes go into it.</span>
      <span class="figure">{{ stepsLeft }} · {{ effect?.cost.left }}</span>
      <span v-if="broken" class="bad">{{ broken }} no longer hold</span>
      <button class="link" @click="router.push('/drafts')">Steps</button>
    </template>
    <button class="link" @click="back">Back to as built</button>
  </div>
</template>

<style scoped>
.band {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 14px;
  padding: 3px 16px;
  font-size: 13px;
  color: var(--ink);
  background: color-mix(in srgb, var(--sheet) 86%, var(--red));
  border-bottom: 1px solid var(--red);
}
.band.past {
  background: repeating-linear-gradient(135deg, var(--strip) 0 10px, var(--sheet) 10px 20px);
  border-bottom-color: var(--ink);
}
b {
  font: 600 14px var(--names);
}
.bad {
  color: var(--red);
  font-weight: 600;
}
.link {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.link:last-child {
  margin-left: auto;
}
@media (max-width: 700px) {
  .what {
    display: none;
  }
  .link {
    min-height: 32px;
  }
}
</style>
