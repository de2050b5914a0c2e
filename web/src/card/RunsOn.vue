<script setup lang="ts">
// What runs on a device, or where a guest lives, what that comes to, and where it could go.
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/address'
import type { Device } from '../api/client'
import { useLab } from '../lab/useLab'
import { useReport } from '../lab/useReport'
import { isGuest } from '../lab/words'
import { useActions } from '../work/useActions'
import { memoryWords, useServices } from '../work/useServices'
import { useWork } from '../work/work'
import './named.css'

const props = defineProps<{ device: Device }>()
const router = useRouter()
const work = useWork()
const { lab } = useLab()
const { moveAll } = useActions()
const guest = computed(() => isGuest(props.device))
const runs = computed(
  () => !guest.value && [...(lab.value?.devices.values() ?? [])].some((d) => isGuest(d) && d.at?.device_id === props.device.id),
)
const { running } = useServices(() => runs.value)
const host = computed(() => running.value?.hosts.find((h) => h.id === props.device.id))
const { data: lives } = useReport(() => (guest.value ? api('/api/v1/reports/guest', { guest: props.device.id }) : ''))
const rows = computed(() => {
  const g = lives.value
  if (!g) return []
  return [
    ['Lives in', g.lives ?? 'nobody said'],
    ['Given', g.given],
    ['Uses', g.uses],
    ['Starts', g.starts],
    ['Newest copy', g.newest_copy],
    ['Draws', g.watts === undefined ? undefined : `${Math.round(g.watts)} W, by its memory`],
    ['Services', g.services.join(', ')],
    ['Elsewhere', g.elsewhere],
  ].flatMap(([term, text]) => (term && text ? [{ term, text }] : []))
})

/** Where it could go is asked for once one wants to know. */
const choosing = ref(false)
watch(
  () => props.device.id,
  () => (choosing.value = false),
)
const { data: fits } = useReport(() => (choosing.value ? api('/api/v1/reports/fits', { guest: props.device.id }) : ''))
const still = computed(() => lab.value?.view.kind === 'past')
async function go(id: string) {
  choosing.value = false
  await moveAll([props.device], { where: 'device', device_id: id })
}
</script>

<template>
  <template v-if="guest && lives">
    <h2>Where it runs</h2>
    <dl>
      <template v-for="r in rows" :key="r.term"
        ><dt>{{ r.term }}</dt>
        <dd>{{ r.text }}</dd></template
      >
    </dl>
    <v-btn v-if="!still" size="small" :aria-expanded="choosing" @click="choosing = !choosing">Move to another host</v-btn>
    <ul v-if="choosing && fits" class="named">
      <li v-for="h in fits.hosts.filter((x) => x.id !== device.at?.device_id)" :key="h.id">
        <button @click="go(h.id)">{{ h.name }}</button>
        <small :class="{ bad: !h.fits }">{{
          h.checks
            .filter((c) => !c.held || c.what === 'memory')
            .map((c) => c.say)
            .join('; ')
        }}</small>
      </li>
    </ul>
  </template>
  <template v-else-if="host && host.guests">
    <h2>What runs on it <button class="to" @click="router.push('/services')">services ›</button></h2>
    <p class="soft">
      {{ memoryWords(host.takes_bytes) }} given of {{ memoryWords(host.fitted_bytes)
      }}{{ host.kept_bytes === undefined ? '' : `, ${memoryWords(host.kept_bytes)} kept` }}
    </p>
    <ul class="named">
      <li v-for="g in host.tower" :key="g.id">
        <button @click="work.pick(g.id)">{{ g.name }}</button>
        <span class="figure">{{ g.running ? memoryWords(g.takes_bytes) : g.state }}</span>
      </li>
    </ul>
  </template>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  column-gap: 6px;
  margin: 0 0 6px;
}
dt {
  font-size: 13px;
  line-height: 26px;
  color: var(--soft);
}
dd {
  padding: 3px 0;
  margin: 0;
  line-height: 1.4;
}
</style>
