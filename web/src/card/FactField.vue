<script setup lang="ts">
// The field that a fact is edited in: a choice, a few lines or one.
import { onMounted, ref } from 'vue'

const entry = defineModel<string>({ required: true })
const props = defineProps<{ label: string; wrong: string; choices?: { value: string; title: string }[]; long?: boolean }>()
const emit = defineEmits<{ choose: [value: string]; enter: [event: KeyboardEvent]; keep: []; leave: [] }>()
const box = ref<HTMLElement>()

onMounted(() => {
  const input = box.value?.querySelector<HTMLInputElement>('input, textarea')
  input?.focus()
  if (!props.choices) input?.select()
})
</script>

<template>
  <div ref="box" class="entry" @keydown.esc.stop.prevent="emit('leave')">
    <v-select
      v-if="choices"
      :model-value="entry"
      :items="choices"
      :aria-label="label"
      :error-messages="wrong"
      menu
      @update:model-value="emit('choose', $event)"
      @update:menu="(open: boolean) => open || emit('leave')" />
    <v-textarea
      v-else-if="long"
      v-model="entry"
      :aria-label="label"
      :error-messages="wrong"
      rows="2"
      auto-grow
      @keydown.enter="emit('enter', $event)"
      @blur="wrong || emit('keep')" />
    <v-text-field
      v-else
      v-model="entry"
      :aria-label="label"
      :error-messages="wrong"
      @keydown.enter="emit('enter', $event)"
      @blur="wrong || emit('keep')" />
  </div>
</template>

<style scoped>
.entry {
  padding: 3px 0;
}
</style>
