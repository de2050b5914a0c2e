<script setup lang="ts">
// Which lab is looked at, and what holds for it as a whole.
import { defineAsyncComponent, ref } from 'vue'
import { useTheme } from 'vuetify'
import { themeKey } from '../theme/vuetify'
import { useWork } from '../work/work'

const LabSettings = defineAsyncComponent(() => import('./LabSettings.vue'))

const work = useWork()
const theme = useTheme()
const settings = ref(false)
const looks = [
  { value: 'system', text: 'As the system is' },
  { value: 'light', text: 'Light' },
  { value: 'dark', text: 'Dark' },
]
const chosen = ref(localStorage.getItem(themeKey) ?? 'system')

function look(value: string) {
  chosen.value = value
  localStorage.setItem(themeKey, value)
  theme.change(value)
}
</script>

<template>
  <v-menu location="bottom end">
    <template #activator="{ props: menu }">
      <v-btn v-bind="menu" height="32" class="built" aria-label="The lab as built: settings, colours, keys"><span>As built</span> ▾</v-btn>
    </template>
    <v-list aria-label="The lab">
      <v-list-item title="Lab settings" @click="settings = true" />
      <v-list-item title="Keys" subtitle="?" @click="work.keysOpen = true" />
      <v-divider />
      <v-list-item v-for="l in looks" :key="l.value" :title="l.text" :active="chosen === l.value" :aria-label="`Colours: ${l.text}`" @click="look(l.value)">
        <template #prepend><span class="tick" aria-hidden="true">{{ chosen === l.value ? '✓' : '' }}</span></template>
      </v-list-item>
    </v-list>
  </v-menu>
  <LabSettings v-if="settings" v-model="settings" />
</template>

<style scoped>
.built {
  padding: 0 12px;
  margin-left: 6px;
}
.tick {
  width: 20px;
}
@media (max-width: 700px) {
  .built span {
    display: none;
  }
}
</style>
