<script setup lang="ts">
// What the checks noticed and would put right, where the program can: each leads to
// what it is about.
import type { Schemas } from '../api/client'
import { computed } from 'vue'
import { useLab } from '../lab/useLab'
import LevelMark from '../sheets/findings/LevelMark.vue'
import { useFix } from '../work/useFix'
import { useShow } from '../work/useShow'

const props = defineProps<{ findings: Schemas['Finding'][] }>()
/** More are on the Findings sheet. */
const most = 30
const first = computed(() => props.findings.slice(0, most))
const { lab } = useLab()
const { fix } = useFix()
const { show } = useShow()
const past = computed(() => lab.value?.view.kind === 'past')
</script>

<template>
  <h2>To put right</h2>
  <ul>
    <li v-for="f in first" :key="f.key">
      <button class="say" @click="f.records[0] && show(f.records[0])"><LevelMark :level="f.level" bare /> {{ f.say }}</button>
      <v-btn v-if="f.fix && !past" size="small" @click="fix(f)">{{ f.fix.say.replace(/\.$/, '') }}</v-btn>
    </li>
  </ul>
  <p v-if="findings.length > most">
    <router-link to="/findings">and {{ findings.length - most }} more ›</router-link>
  </p>
</template>

<style scoped>
ul {
  list-style: none;
}
li {
  margin-bottom: 8px;
}
.say {
  margin-bottom: 4px;
  line-height: 1.4;
  text-align: left;
}
</style>
