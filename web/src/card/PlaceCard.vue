<script setup lang="ts">
// What is known of a place.
import { computed } from 'vue'
import type { Place } from '../api/client'
import { useLab } from '../lab/useLab'
import { useActions } from '../work/useActions'
import RecordCard from './RecordCard.vue'
import { useCard } from './useCard'

const props = defineProps<{ place: Place }>()
const { remove } = useLab()
const { change } = useActions()
const key = computed(() => ({ kind: 'place' as const, id: props.place.id }))
const { data: card } = useCard(() => key.value)
const empty = computed(() => card.value?.things.length === 0)
</script>

<template>
  <RecordCard :record="key" :card="card">
    <p v-if="empty" class="soft">
      Nothing is here yet. Type a line such as <code class="figure">in "{{ place.name }}" access point "ap"</code>.
    </p>
    <template #remove><v-btn v-if="empty" @click="change([remove(key)])">Remove the place</v-btn></template>
  </RecordCard>
</template>
