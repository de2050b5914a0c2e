<script setup lang="ts">
// The keys of this sheet.
import { useWork } from '../work/work'
import { sheets } from './sheets'

const work = useWork()
const keys = [
  ...sheets.map((s) => [s.key, `to the sheet ${s.name}`]),
  ['↑ ↓', 'along the staff'],
  ['[ ]', 'the rack before, the next rack'],
  ['Shift + ↑ ↓', 'move what is picked to the next units it fits'],
  ['Shift + ← →', 'from the front to the rear, and back'],
  ['Enter', 'to the card of what is picked'],
  ['.', 'to the quick line; Tab takes what it offers'],
  ['Delete', 'remove what is picked'],
  ['Ctrl + Z', 'undo; with Shift, redo'],
  ['Esc', 'let go'],
  ['?', 'these keys'],
]
</script>

<template>
  <v-dialog v-model="work.keysOpen" max-width="460">
    <v-card border class="box">
      <h2>Keys</h2>
      <table>
        <tbody>
          <tr v-for="[key, what] in keys" :key="key"><th scope="row"><kbd>{{ key }}</kbd></th><td>{{ what }}</td></tr>
        </tbody>
      </table>
      <v-btn class="done" autofocus @click="work.keysOpen = false">Close</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
table {
  margin-top: 8px;
}
th {
  text-align: left;
  padding: 3px 16px 3px 0;
  white-space: nowrap;
}
kbd {
  font: 400 13px var(--figures);
}
.done {
  align-self: flex-start;
  margin-top: 14px;
}
</style>
