<script setup lang="ts">
// The menu of the lab: its settings, the keys, the colours.
import { ref } from 'vue'
import { useTheme } from 'vuetify'
import { themeKey } from '../theme/vuetify'
import { useWork } from '../work/work'

const open = defineModel<boolean>({ required: true })
const emit = defineEmits<{ settings: [] }>()
const work = useWork()
const theme = useTheme()
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
  <v-menu v-model="open" target="#lab-menu" location="bottom end">
    <v-list aria-label="The lab">
      <v-list-item title="Lab settings" @click="emit('settings')" />
      <v-list-item title="Keys" subtitle="?" @click="work.keysOpen = true" />
      <v-divider />
      <v-list-item v-for="l in looks" :key="l.value" :title="l.text" :active="chosen === l.value" :aria-label="`Colours: ${l.text}`" @click="look(l.value)">
        <template #prepend><span class="tick" aria-hidden="true">{{ chosen === l.value ? '✓' : '' }}</span></template>
      </v-list-item>
    </v-list>
  </v-menu>
</template>

<style scoped>
.tick {
  width: 20px;
}
</style>
