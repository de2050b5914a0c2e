<script setup lang="ts">
// All there is to what runs in tables, as the gear is: VMs and containers, services, and
// what they are gathered to and made from.
import { shallowRef, watch } from 'vue'
import { lists as listOf } from '../../api/core.gen'
import type { List } from '../../table/useTable'
import { pickedOn, pickRecord } from '../../work/usePicked'
import { useWork } from '../../work/work'
import ListPane from './ListPane.vue'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const picked = pickedOn('/services')
interface Listed {
  list: List
  kind: keyof typeof listOf
  title: string
  example: string
  line: string
}
const guests: Listed = {
  list: 'guests',
  kind: 'device',
  title: 'VMs and containers',
  example: 'words, or memory>=4GB worth:household',
  line: 'on anvil: vm "choir": 8 vcpu, 24GB',
}
const lists: Listed[] = [
  guests,
  {
    list: 'services',
    kind: 'service',
    title: 'Services',
    example: 'words, or worth:household',
    line: 'service "choir library": in library, tcp 8080, https',
  },
  { list: 'stacks', kind: 'stack', title: 'Stacks', example: 'words', line: 'stack "pictures": solver, viewer, data base' },
  { list: 'clusters', kind: 'cluster', title: 'Clusters', example: 'words', line: 'cluster "pair": anvil, thrush, shared vault' },
  { list: 'templates', kind: 'template', title: 'Templates', example: 'words', line: 'template "small": 2 vcpu, 2GB' },
]
const shown = shallowRef(guests)
// A link to a service leads to the services.
watch(picked, (now) => now && (shown.value = lists.find((l) => l.kind === now.kind) ?? shown.value), { immediate: true })
function pick(id: string) {
  if (shown.value.kind === 'device') return work.pick(id)
  work.deviceId = ''
  pickRecord({ kind: shown.value.kind, id })
}
watch(shown, (now) => emit('says', now.title), { immediate: true })
</script>

<template>
  <div class="all">
    <div class="segments" role="group" aria-label="What is listed">
      <button v-for="l in lists" :key="l.list" :aria-pressed="shown === l" @click="shown = l">{{ l.title }}</button>
    </div>
    <ListPane
      :key="shown.list"
      :list="shown.list"
      :title="shown.title"
      :example="shown.example"
      :line="shown.line"
      :picked="shown.kind === 'device' ? work.deviceId : (picked?.id ?? '')"
      @pick="pick" />
  </div>
</template>

<style scoped>
.all {
  display: flex;
  flex: 1;
  flex-direction: column;
  min-height: 0;
}
.segments {
  flex: none;
  align-self: flex-start;
  max-width: calc(100% - 36px);
  margin: 0 18px 8px;
}
</style>
