<script setup lang="ts">
// What needs what for a phone: what matters most on top; under what is picked, what it needs
// and what needs it.
import type { Schemas } from '../../api/client'

defineProps<{ nodes: Schemas['NeedNode'][]; chosen: string; said: string[] }>()
defineEmits<{ pick: [node: Schemas['NeedNode']] }>()
const what = (n: Schemas['NeedNode']) => (n.holds ? `${n.holds} as one` : n.kind)
</script>

<template>
  <ul class="needs" aria-label="What needs what">
    <li v-for="n in nodes" :key="n.id">
      <button :aria-expanded="n.id === chosen" @click="$emit('pick', n)">
        <b>{{ n.title }}</b> <span class="soft">{{ what(n) }}</span>
        <span v-if="n.worth" class="soft worth">{{ n.worth }}</span>
      </button>
      <ul v-if="n.id === chosen" aria-live="polite" aria-label="In words">
        <li v-for="s in said" :key="s">{{ s }}</li>
      </ul>
    </li>
  </ul>
</template>

<style scoped>
.needs,
.needs ul {
  padding: 0;
  margin: 0;
  list-style: none;
}
.needs > li {
  border-top: 1px solid var(--rule);
}
.needs button {
  display: flex;
  gap: 6px;
  align-items: center;
  width: 100%;
  min-height: 44px;
  text-align: left;
}
.needs .worth {
  margin-left: auto;
}
.needs ul li {
  padding: 0 0 8px 12px;
}
</style>
