<script setup lang="ts">
// The pools of the lab: the bays their drives are in, and each pool as blocks as long as
// they are large. Where a device with drives is picked, that one first and alone.
import { useElementSize } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { lengthOf } from '../../draw/blocks'
import { useLab } from '../../lab/useLab'
import { useStorage } from '../../work/useStorage'
import { useSome } from '../../work/useSome'
import { useWork } from '../../work/work'
import BayMap from './BayMap.vue'
import NewPool from './NewPool.vue'
import PoolBlocks from './PoolBlocks.vue'
import '../../frame/views.css'

const emit = defineEmits<{ says: [text: string] }>()
const work = useWork()
const { lab } = useLab()
const { stored, pool, picked: shown } = useStorage()
/** What is as long as the sheet is wide. */
const scale = computed(() => Math.max(1, ...(stored.value?.pools ?? []).map((p) => lengthOf(p) * 1.02)))
/** The devices whose bays are drawn, each with the pools it runs. */
const groups = computed(() => {
  const all = (stored.value?.bays ?? []).map((bays) => ({
    bays,
    pools: (stored.value?.pools ?? []).filter((p) => p.device_id === bays.device_id),
  }))
  const bare = (stored.value?.pools ?? []).filter((p) => !all.some((g) => g.bays.device_id === p.device_id))
  const here = all.filter((g) => g.bays.device_id === work.deviceId || g.pools.some((p) => p.on_device_ids.includes(work.deviceId)))
  const drawn = here.length ? here : all.filter((g) => !stored.value?.pools.length || g.pools.length || g.bays.bays.some((b) => b.pool_id))
  return { drawn, bare: here.length ? [] : bare, others: all.filter((g) => !drawn.includes(g)), one: here.length > 0 }
})
const others = ref(false)
const list = computed(() => (others.value && !groups.value.one ? [...groups.value.drawn, ...groups.value.others] : groups.value.drawn))

const { some, more } = useSome(list, 5)
const room = ref<HTMLElement>()
const { width } = useElementSize(room)

const picked = ref({ device: '', bays: [] as number[] })
const none: ReadonlySet<number> = new Set()
const pickedOf = (device: string) => (picked.value.device === device ? new Set(picked.value.bays) : none)
watch(
  () => lab.value?.revision,
  () => (picked.value = { device: '', bays: [] }),
)
function choose(id: string) {
  work.deviceId = ''
  shown.value = pool.value === id ? undefined : { kind: 'pool', id }
  work.cardOpen = true
}
watch(stored, (now) => emit('says', now?.pools.length ? 'as long as it is large' : ''), { immediate: true })
</script>

<template>
  <div ref="room" class="paper-view pools" data-scroll>
    <p v-if="stored && !stored.pools.length" class="first">
      No pool is documented yet. Drag over the bays of one, or write a line such as
      <code class="figure">pool "hold" on silo: raid-z1 of bay 1-4, hot spare bay 5</code>.
    </p>
    <p v-if="groups.one"><button class="back" @click="work.deviceId = ''">‹ all pools</button></p>
    <template v-for="g in some" :key="g.bays.device_id">
      <BayMap
        :row="g.bays"
        :picked="pickedOf(g.bays.device_id)"
        :still="lab?.view.kind === 'past'"
        @pick="picked = { device: g.bays.device_id, bays: $event }"
        @pool="choose"
        @device="work.pick(g.bays.device_id)" />
      <NewPool
        v-if="picked.device === g.bays.device_id && picked.bays.length"
        :device="g.bays.device_id"
        :title="g.bays.device"
        :bays="picked.bays"
        @close="picked = { device: '', bays: [] }"
        @made="picked = { device: '', bays: [] }" />
      <PoolBlocks v-for="p in g.pools" :key="p.id" :pool="p" :scale="scale" :width="width" :picked="pool === p.id" @pick="choose(p.id)" />
    </template>
    <p v-if="more" :key="some.length" ref="end" class="soft">and {{ list.length - some.length }} more</p>
    <PoolBlocks v-for="p in groups.bare" :key="p.id" :pool="p" :scale="scale" :width="width" :picked="pool === p.id" @pick="choose(p.id)" />
    <p v-if="groups.others.length && !groups.one">
      <button class="back" :aria-expanded="others || !stored?.pools.length" @click="others = !others">
        {{ others ? 'Hide' : 'Show' }} {{ groups.others.length }} more {{ groups.others.length === 1 ? 'device' : 'devices' }} with drives
        in no pool
      </button>
    </p>
  </div>
</template>

<style scoped>
.back {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.pools :deep(.face:not(:first-child)) {
  margin-top: 8px;
}
@media (max-width: 700px) {
  .back {
    min-height: 44px;
  }
}
</style>
