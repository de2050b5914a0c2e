<script setup lang="ts">
// A guest as a block of its host's tower, with what runs in it.
import { computed } from 'vue'
import { high, leastOf } from '../../draw/towers'
import { memoryWords, saidOf, type GuestRow, type TowerLens } from '../../work/useServices'

const props = defineProps<{ guest: GuestRow; lens: TowerLens; perGB: number; picked: string }>()
const emit = defineEmits<{ pick: [id: string]; lift: [id: string, e: DragEvent]; done: [] }>()
const used = computed(() => {
  const { uses_bytes: uses, takes_bytes: takes } = props.guest
  return uses === undefined || !takes ? undefined : Math.min(1, uses / takes)
})
const size = computed(() => (props.perGB ? { minHeight: `${high(props.guest.takes_bytes, props.perGB, leastOf(props.guest))}px` } : {}))
const unknown = computed(() => saidOf(props.guest, props.lens) === '?')
const describe = computed(() =>
  [
    `${props.guest.name}, ${props.guest.kind === 'vm' ? 'VM' : 'container'}`,
    `takes ${memoryWords(props.guest.takes_bytes)}`,
    props.guest.uses_bytes !== undefined && `uses ${memoryWords(props.guest.uses_bytes)}`,
    props.guest.matters,
    props.guest.handed_through && `has ${props.guest.handed_through} of its host`,
    props.guest.pinned && 'pinned',
    !props.guest.running && props.guest.state,
    ...props.guest.services.map((s) => `for ${s}`),
  ]
    .filter(Boolean)
    .join(', '),
)
</script>

<template>
  <li
    class="guest"
    :class="[
      guest.kind,
      lens === 'matters' && (guest.matters ?? 'unsaid'),
      { picked: picked === guest.id, still: !guest.running, unknown },
    ]"
    :style="size">
    <i v-if="lens === 'memory' && used !== undefined && perGB" class="used" :style="{ height: `${used * 100}%` }" />
    <button
      draggable="true"
      :title="describe"
      :aria-label="describe"
      :aria-pressed="picked === guest.id"
      @click="emit('pick', guest.id)"
      @dragstart="emit('lift', guest.id, $event)"
      @dragend="emit('done')">
      <span class="name">{{ guest.name }}</span>
      <span class="figure" :class="{ word: lens === 'matters' || !guest.running }">{{
        guest.running ? saidOf(guest, lens) : guest.state
      }}</span>
    </button>
    <ul v-if="guest.inside.length || guest.handed_through" class="inside">
      <li v-if="guest.handed_through" class="handed">has {{ guest.handed_through }}</li>
      <li v-for="g in guest.inside" :key="g.id">
        <button
          :class="{ picked: picked === g.id, still: !g.running }"
          draggable="true"
          :title="`${g.name}, container in ${guest.name}, takes ${memoryWords(g.takes_bytes)}`"
          @click="emit('pick', g.id)"
          @dragstart="emit('lift', g.id, $event)"
          @dragend="emit('done')">
          {{ g.name }}
        </button>
      </li>
    </ul>
  </li>
</template>

<style scoped>
.guest {
  position: relative;
  padding: 0 6px 0 14px;
  background: color-mix(in srgb, var(--water) 22%, var(--sheet));
  border: 1px solid var(--ink);
  border-radius: 2px;
}
.guest + .guest {
  border-top-width: 0;
}
.container {
  border-left-width: 4px;
  border-left-style: double;
}
.used {
  position: absolute;
  bottom: 0;
  left: 0;
  width: 6px;
  background: var(--water);
}
button {
  display: flex;
  gap: 8px;
  align-items: baseline;
  justify-content: space-between;
  width: 100%;
  min-height: 22px;
  text-align: left;
  cursor: grab;
}
.name {
  overflow: hidden;
  font: 600 14px/22px var(--names);
  text-overflow: ellipsis;
  white-space: nowrap;
}
.figure {
  flex: none;
  font-size: 12px;
}
.word {
  font: 400 12px var(--names);
}
.handed {
  padding: 0 6px;
  font: 500 12px/18px var(--names);
  border: 1px solid var(--brass);
  border-radius: 2px;
}
.picked {
  outline: 2px solid var(--red);
  outline-offset: -1px;
}
.still {
  background: none;
  border-style: dashed;
}
.unknown {
  background: none;
  border-style: dashed;
}
.household {
  background: color-mix(in srgb, var(--brass) 40%, var(--sheet));
}
.lab {
  background: color-mix(in srgb, var(--water) 26%, var(--sheet));
}
.toy,
.unsaid {
  background: var(--sheet);
}
.inside {
  display: flex;
  flex-wrap: wrap;
  gap: 3px;
  padding: 0 0 5px;
  margin: 0;
  list-style: none;
}
.inside button {
  min-height: 19px;
  padding: 0 6px;
  font: 500 12px/18px var(--names);
  background: var(--sheet);
  border: 1px solid var(--water);
  border-radius: 2px;
}
.inside .still {
  border-style: dashed;
}
@media (max-width: 700px) {
  .guest button {
    min-height: 44px;
    align-items: center;
  }
}
</style>
