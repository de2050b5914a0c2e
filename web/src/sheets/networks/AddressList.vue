<script setup lang="ts">
// The addresses of a subnet as a list: of IPv6, and of any on a phone, where
// graduations are too narrow to touch.
import type { Schemas } from '../../api/client'

defineProps<{ ruler: Schemas['Ruler']; picked: string }>()
defineEmits<{ pick: [address: string]; into: [prefix: string] }>()
const how = (h: Schemas['AddressOn'] | undefined) =>
  !h ? '' : h.gateway ? 'gateway' : h.how === 'reserved' ? 'reserved' : h.how === 'handed_out' ? 'handed out' : ''
</script>

<template>
  <table class="addresses" :aria-label="`Addresses of ${ruler.within}`">
    <tbody>
      <tr v-for="m in ruler.marks" :key="m.address" :class="{ here: m.address === picked }">
        <template v-if="ruler.each > 1">
          <td>
            <button class="figure" @click="$emit('into', `${m.address}/${32 - Math.log2(ruler.each)}`)">
              {{ m.address }}/{{ 32 - Math.log2(ruler.each) }}
            </button>
          </td>
          <td>{{ m.n }} had</td>
          <td />
        </template>
        <template v-else>
          <td>
            <button class="figure" @click="$emit('pick', m.address)">{{ m.address }}</button>
          </td>
          <td>
            <b :class="{ bad: m.twice }">{{ m.had.map((h) => h.title).join(', ') }}</b> <span class="soft">{{ m.had[0]?.port }}</span>
          </td>
          <td class="soft">{{ m.twice ? 'twice' : how(m.had[0]) }}</td>
        </template>
      </tr>
      <tr v-if="ruler.next_free" :class="{ here: ruler.next_free === picked }">
        <td>
          <button class="figure" @click="$emit('pick', ruler.next_free)">{{ ruler.next_free }}</button>
        </td>
        <td class="soft">free, the next one</td>
        <td />
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  width: 100%;
  border-collapse: collapse;
}
td {
  padding: 3px 12px 3px 0;
  border-bottom: 1px solid var(--rule);
}
td:first-child {
  width: 1%;
  padding-left: 6px;
  white-space: nowrap;
}
button {
  text-decoration: underline dotted var(--soft);
  text-underline-offset: 4px;
}
.here {
  background: var(--strip);
}
b {
  font: 600 14px var(--names);
}
.bad {
  color: var(--red);
}
@media (max-width: 700px) {
  button {
    min-height: 44px;
  }
}
</style>
