<script setup lang="ts">
// What holds for the whole lab, edited where it stands.
import RecordCard from '../card/RecordCard.vue'
import { useCard } from '../card/useCard'
import { useWork } from '../work/work'

const work = useWork()
const key = { kind: 'lab', id: 'lab' } as const
const { data: card } = useCard(() => key)
</script>

<template>
  <v-dialog aria-label="Lab settings" :model-value="work.dialog === 'settings'" @update:model-value="work.dialog = ''" max-width="440">
    <v-card v-if="card" border class="box card">
      <RecordCard :record="key" :card="card" />
      <v-btn class="done" @click="work.dialog = ''">Done</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.done {
  align-self: flex-start;
  margin-top: 14px;
}
</style>
