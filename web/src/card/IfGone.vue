<script setup lang="ts">
// What stops when something goes, over all layers: in a sentence, and each with why, step
// by step.
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import { useReport } from '../lab/useReport'
import './named.css'

const props = defineProps<{
  /** A record, or an outlet as port and DEVICEID/out3. */
  record: { kind: string; id: string }
  /** All of it is shown at once, where there is the room. */
  whole?: boolean
  /** What it is about stands above it. */
  plain?: boolean
}>()
const router = useRouter()
const { data } = useReport(() => api('/api/v1/if_gone', { kind: props.record.kind, id: props.record.id }))
const more = ref(false)
const open = computed(() => props.whole || more.value)
watch(
  () => props.record.id,
  () => (more.value = false),
)
const lists = computed(() =>
  data.value
    ? [
        { title: 'Stops', hits: data.value.stops },
        { title: 'Goes on with less', hits: data.value.limps },
        { title: 'Cut off', hits: data.value.cut_off },
      ].filter((l) => l.hits.length)
    : [],
)
/** A reason ends with what went, which the heading says already. */
const why = (steps: string[]) => steps.filter((s) => !s.endsWith(' is gone')).join('; ')
</script>

<template>
  <template v-if="data">
    <h2 v-if="!whole && !plain">If it goes</h2>
    <p class="say">{{ data.say }}</p>
    <p v-for="n in data.names" :key="n.say" class="soft">{{ n.say }}</p>
    <p v-if="data.noticed_by.length" class="soft">Noticed by {{ data.noticed_by.join(', ') }}.</p>
    <v-btn v-if="lists.length && !whole" size="small" :aria-expanded="open" @click="more = !more">{{
      open ? 'Less' : 'What, and why'
    }}</v-btn>
    <section v-for="l in open ? lists : []" :key="l.title" :aria-label="l.title">
      <h3>{{ l.title }}</h3>
      <ul class="named">
        <li v-for="h in l.hits" :key="h.record_kind + h.id">
          <button @click="router.push(h.to)">{{ h.title }}</button>
          <span class="soft">{{ [h.kind, h.worth].filter(Boolean).join(', ') }}</span>
          <small v-if="why(h.why)">{{ why(h.why) }}</small>
        </li>
      </ul>
    </section>
  </template>
</template>

<style scoped>
.say,
p.soft {
  margin-bottom: 6px;
}
h3 {
  margin: 10px 0 2px;
  font: 600 13px var(--names);
  color: var(--soft);
}
</style>
