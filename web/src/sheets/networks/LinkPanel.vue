<script setup lang="ts">
// The links that are picked on the map: each with its trail, what it carries, and
// whether it rests.
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { speedWords } from '../../lab/trails'
import { useElementSize } from '@vueuse/core'
import { ref } from 'vue'
import { useWork } from '../../work/work'
import HopTrail from './HopTrail.vue'

const props = defineProps<{ map: Schemas['NetworkMap']; links: Schemas['MapLink'][] }>()
const emit = defineEmits<{ close: [] }>()
const work = useWork()
const room = ref<HTMLElement>()
const { width } = useElementSize(room)
const at = ref(0)
const link = computed(() => props.links[Math.min(at.value, props.links.length - 1)])
const title = (id: string) => [...props.map.nodes, ...props.map.beyond].find((n) => n.id === id)?.title ?? ''
const end = (id: string, port: string) => (port ? `${title(id)}/${port}` : title(id))
const ends = (l: Schemas['MapLink']) => `${end(l.a_device_id, l.a_port)} – ${end(l.b_device_id, l.b_port)}`
const carries = (l: Schemas['MapLink']) =>
  l.strands.length
    ? l.strands
        .map((s) => ({ v: props.map.vlans[s.vlan], s }))
        .map(({ v, s }) => `${v?.number}${v?.name ? ` ${v.name}` : ''}${s.tagged ? '' : ' untagged'}`)
        .join(', ')
    : 'no VLAN that is known'
const says = (l: Schemas['MapLink']) =>
  [
    l.speed_mb ? `${l.at_most ? 'at most ' : ''}${speedWords(l.speed_mb)}` : 'speed unknown',
    l.aggregate && `in the aggregate ${l.aggregate}`,
    l.standby && 'stands by',
    l.rests && 'rests',
    l.unsure && 'may rest',
    l.poe && 'gives power',
    l.down && 'carries nothing: something on the way is faulty or does not fit',
    l.cuts_off && `cuts off ${l.cuts_off} ${l.cuts_off === 1 ? 'device' : 'devices'} when it is lost`,
  ]
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <section v-if="link" ref="room" class="link" aria-label="Link" aria-live="polite">
    <header>
      <h2>{{ ends(link) }}</h2>
      <span class="soft">{{ says(link) }}</span>
      <span v-if="links.length > 1" class="of">
        <button v-for="(l, i) in links.slice(0, 12)" :key="i" :aria-pressed="l === link" :title="ends(l)" @click="at = i">
          {{ i + 1 }}
        </button>
      </span>
      <button class="close" aria-label="Close" @click="emit('close')">×</button>
    </header>
    <p>Carries {{ carries(link) }}.</p>
    <HopTrail
      v-if="link.cable_id"
      :cable="link.cable_id"
      :from="link.a_device_id"
      :width="width - 24"
      @pick="work.pick(link.a_device_id)" />
    <p v-else class="soft">Through the air, as a guest of a wireless network.</p>
  </section>
</template>

<style scoped>
.link {
  margin: 0 18px 8px;
  padding: 6px 12px 8px;
  background: var(--sheet);
  border: 1px solid var(--red);
}
header {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 2px 12px;
}
h2 {
  font-size: 14px;
}
.of {
  display: flex;
  gap: 2px;
}
.of button {
  padding: 0 6px;
  border: 1px solid var(--rule);
  border-radius: 2px;
}
.of button[aria-pressed='true'] {
  color: var(--paper);
  background: var(--ink);
}
.close {
  margin-left: auto;
  padding: 0 8px;
  font-size: 18px;
}
</style>
