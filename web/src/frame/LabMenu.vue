<script setup lang="ts">
// Which lab is looked at, and what holds for it as a whole. The menu itself is
// read when it is first opened.
import { defineAsyncComponent, ref } from 'vue'

const LabMenuList = defineAsyncComponent(() => import('./LabMenuList.vue'))
const LabSettings = defineAsyncComponent(() => import('./LabSettings.vue'))

const open = ref(false)
const opened = ref(false)
const settings = ref(false)

function toggle() {
  opened.value = true
  open.value = !open.value
}
</script>

<template>
  <v-btn id="lab-menu" height="32" class="built" aria-haspopup="menu" :aria-expanded="open" aria-label="The lab as built: settings, colours, keys" @click="toggle"><span>As built</span> ▾</v-btn>
  <LabMenuList v-if="opened" v-model="open" @settings="settings = true" />
  <LabSettings v-if="settings" v-model="settings" />
</template>

<style scoped>
.built {
  padding: 0 12px;
  margin-left: 6px;
}
.built span {
  margin-right: 5px;
}
@media (max-width: 700px) {
  .built span {
    display: none;
  }
}
</style>
