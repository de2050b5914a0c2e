<script setup lang="ts">
// Which line, input or port reaches which device: to hang at the console's door.
import { computed } from 'vue'
import { api } from '../../api/address'
import { useReport } from '../../lab/useReport'
import { useShow } from '../../work/useShow'
import './lists.css'

const { data } = useReport(() => api('/api/v1/reports/ways_in'))
const { showDevice } = useShow()
const names = { console: 'Console lines', kvm: 'KVM inputs', video: 'Screens at panels', management: 'Management ports' }
const groups = computed(() =>
  (Object.keys(names) as (keyof typeof names)[])
    .map((kind) => ({ kind, list: (data.value?.ways ?? []).filter((w) => w.kind === kind) }))
    .filter((g) => g.list.length),
)
const print = () => window.print()
</script>

<template>
  <div class="list-room room">
    <template v-for="g in groups" :key="g.kind">
      <h2>{{ names[g.kind] }}</h2>
      <table :aria-label="names[g.kind]">
        <thead>
          <tr>
            <th v-if="g.kind !== 'management'">At</th>
            <th>{{ g.kind === 'management' ? 'Port' : 'Input' }}</th>
            <th v-if="g.kind === 'console'">TCP port</th>
            <th v-if="g.kind === 'management'">Address</th>
            <th>Reaches</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="w in g.list" :key="w.device_id + w.input">
            <td v-if="g.kind !== 'management'">{{ w.by }}</td>
            <td class="figure">{{ w.input }}</td>
            <td v-if="g.kind === 'console'" class="figure">{{ w.tcp_port ?? '' }}</td>
            <td v-if="g.kind === 'management'" class="figure">
              <template v-if="w.address">{{ w.address }}</template><i v-else class="unknown">?</i>
            </td>
            <td>
              <button @click="showDevice(w.device_id)">
                <b>{{ w.title }}</b>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-if="data && !groups.length" class="soft">
      No console line, KVM input or management port leads anywhere yet. Plug one in by a line such as lines/serial1 - gate/serial1 serial.
    </p>
    <p v-if="groups.length" class="print"><v-btn size="small" variant="text" @click="print">Print</v-btn></p>
  </div>
</template>

<style scoped>
table {
  max-width: 640px;
}
.print {
  margin-top: 14px;
}
@media print {
  .print {
    display: none;
  }
}
</style>
