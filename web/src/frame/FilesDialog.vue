<script setup lang="ts">
// The lab as files: out in open formats, and in, looked at before it is done.
import { computed, ref } from 'vue'
import { view } from '../api/client'
import { useLab } from '../lab/useLab'
import { useWork } from '../work/work'
import FileIn from './FileIn.vue'

const work = useWork()
const { lab } = useLab()
/** Serial numbers, addresses and what else is private stay out of the files. */
const share = ref(false)
/** A file that is looked at needs the room. */
const reading = ref(false)
const query = computed(() => `?share=${share.value}${view.value ? `&view=${encodeURIComponent(view.value)}` : ''}`)
const out = computed(() => [
  { href: `/api/v1/files/lab.json${query.value}`, name: 'lab.json', what: 'all of it, plans and notes too', saveAs: undefined },
  { href: `/api/v1/files/devices.csv${query.value}`, name: 'devices.csv', what: 'a line a device, for a spreadsheet', saveAs: undefined },
  { href: `/api/v1/files/devices.xlsx${query.value}`, name: 'devices.xlsx', what: 'the same as a workbook', saveAs: undefined },
  {
    href: `/api/v1/files/parts.csv${query.value}`,
    name: 'parts.csv',
    what: 'a line a part: drives, memory and what lies in the spares bin',
    saveAs: undefined,
  },
  { href: `/api/v1/files/parts.xlsx${query.value}`, name: 'parts.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: `/api/v1/files/cables.csv${query.value}`, name: 'cables.csv', what: 'the cable schedule: a line a cable', saveAs: undefined },
  { href: `/api/v1/files/cables.xlsx${query.value}`, name: 'cables.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/vlan_plan.csv', name: 'vlan_plan.csv', what: 'ports by VLANs, a line a port', saveAs: undefined },
  { href: '/api/v1/files/vlan_plan.xlsx', name: 'vlan_plan.xlsx', what: 'the same as a workbook', saveAs: undefined },
  {
    href: '/api/v1/files/address_plan.csv',
    name: 'address_plan.csv',
    what: 'a line an address: who has it, where, how',
    saveAs: undefined,
  },
  { href: '/api/v1/files/address_plan.xlsx', name: 'address_plan.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/reservations.csv', name: 'reservations.csv', what: 'reserved addresses alone, with MACs', saveAs: undefined },
  { href: '/api/v1/files/reservations.xlsx', name: 'reservations.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/outlet_plan.csv', name: 'outlet_plan.csv', what: 'a line an outlet: what hangs on it', saveAs: undefined },
  { href: '/api/v1/files/outlet_plan.xlsx', name: 'outlet_plan.xlsx', what: 'the same as a workbook', saveAs: undefined },
  {
    href: '/api/v1/files/power_table.csv',
    name: 'power_table.csv',
    what: 'a line a device: what it draws, on what that rests',
    saveAs: undefined,
  },
  { href: '/api/v1/files/power_table.xlsx', name: 'power_table.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/pool_table.csv', name: 'pool_table.csv', what: 'a line a pool: its device, sets, room used', saveAs: undefined },
  { href: '/api/v1/files/pool_table.xlsx', name: 'pool_table.xlsx', what: 'the same as a workbook', saveAs: undefined },
  {
    href: '/api/v1/files/dataset_table.csv',
    name: 'dataset_table.csv',
    what: 'a line a dataset: its pool, size, growth',
    saveAs: undefined,
  },
  { href: '/api/v1/files/dataset_table.xlsx', name: 'dataset_table.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/copy_table.csv', name: 'copy_table.csv', what: 'a line a copy: of what, where to, how often', saveAs: undefined },
  { href: '/api/v1/files/copy_table.xlsx', name: 'copy_table.xlsx', what: 'the same as a workbook', saveAs: undefined },
  { href: '/api/v1/files/restore_plan.md', name: 'restore_plan.md', what: 'how to get every dataset back, as Markdown', saveAs: undefined },
  { href: '/api/v1/files/hosts', name: 'hosts', what: 'every name with its address; zones are on the Names tab', saveAs: 'hosts' },
  { href: '/api/v1/files/wiring.dot', name: 'wiring.dot', what: 'what is plugged into what, for Graphviz', saveAs: undefined },
  { href: '/api/v1/files/network.dot', name: 'network.dot', what: 'the network with its VLANs, for Graphviz', saveAs: undefined },
  { href: '/api/v1/files/sheets.json', name: 'sheets.json', what: 'the spec sheets alone, to hand on', saveAs: undefined },
  { href: `/api/v1/rundown${query.value}`, name: 'lab.rundown', what: 'plain text, top to bottom', saveAs: 'lab.rundown' },
  {
    href: '/api/v1/files/backup.db',
    name: 'backup',
    what: 'a copy of the file, with the logbook, for levelstaff restore',
    saveAs: undefined,
  },
  { href: '/api/v1/files/lab.schema.json', name: 'lab.schema.json', what: 'what lab.json may say', saveAs: 'lab.schema.json' },
])
</script>

<template>
  <v-dialog aria-label="Import and export" :model-value="true" max-width="820" scrollable @update:model-value="work.dialog = ''">
    <v-card border>
      <v-card-text>
        <h2 v-if="!reading">Export</h2>
        <ul v-if="!reading" class="out">
          <li v-for="o in out" :key="o.name">
            <a :href="o.href" :download="o.saveAs ?? ''">{{ o.name }}</a> <span class="soft">{{ o.what }}</span>
          </li>
        </ul>
        <v-checkbox
          v-if="!reading"
          v-model="share"
          label="To show to others: without serial numbers, addresses and what else is private"
          density="compact"
          hide-details />
        <h2>Import</h2>
        <p v-if="lab?.view.kind === 'past'" class="soft">Go back to the lab as built first.</p>
        <FileIn v-else @reading="reading = $event" @loaded="work.dialog = ''" />
      </v-card-text>
      <v-card-actions>
        <v-spacer />
        <v-btn variant="text" @click="work.dialog = ''">Close</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
h2 + * {
  margin-top: 4px;
}
.out {
  list-style: none;
  margin-bottom: 16px;
}
.out li {
  padding: 3px 0;
}
a {
  display: inline-block;
  min-width: 130px;
  font: 500 14px var(--figures);
  color: var(--water);
}
</style>
