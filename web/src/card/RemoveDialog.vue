<script setup lang="ts">
// Asked before something that holds other things is removed: what goes with it.
import { computed } from 'vue'
import { useLab } from '../lab/useLab'
import { title } from '../lab/words'
import { useActions } from '../work/useActions'
import { useWork } from '../work/work'

const work = useWork()
const { within } = useLab()
const { removeAll, removeAlone } = useActions()
const goes = computed(() => (work.device ? within(work.device.id) : []))
</script>

<template>
  <v-dialog aria-label="Remove" :model-value="work.dialog === 'remove'" @update:model-value="work.dialog = ''" max-width="420">
    <v-card v-if="work.device" border class="box">
      <h2>Remove {{ title(work.device) }}</h2>
      <p>It holds {{ goes.map(title).join(', ') }}. Either way can be undone.</p>
      <div class="buttons">
        <v-btn autofocus @click="removeAll(work.device)">Remove all {{ goes.length + 1 }}</v-btn>
        <v-btn @click="removeAlone(work.device)">Remove only this one</v-btn>
        <v-btn variant="text" @click="work.dialog = ''">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-top: 14px;
}
</style>
