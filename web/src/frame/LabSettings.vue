<script setup lang="ts">
// What holds for the whole lab, edited where it stands.
import FactRow from '../card/FactRow.vue'
import { useLab } from '../lab/useLab'
import { useWork } from '../work/work'

const work = useWork()
const { lab } = useLab()
const key = { kind: 'lab', id: 'lab' } as const
const ends = [
  { value: 'units from the bottom', title: 'from the bottom' },
  { value: 'units from the top', title: 'from the top' },
]
</script>

<template>
  <v-dialog aria-label="Lab settings" :model-value="work.dialog === 'settings'" @update:model-value="work.dialog = ''" max-width="440">
    <v-card v-if="lab" border class="box">
      <h2>Lab settings</h2>
      <div>
        <FactRow :record="key" field="name" label="Name" :text="lab.settings.name" gap="name" />
        <FactRow :record="key" field="currency" label="Currency" :text="lab.settings.currency" gap="GBP, EUR …" mono />
        <FactRow :record="key" field="mains_v" label="Mains" :text="lab.settings.mains_v ? `${lab.settings.mains_v} V` : undefined" gap="V" mono />
        <FactRow :record="key" field="unit_numbering" label="Units count" :text="lab.settings.unit_numbering === 'top' ? 'from the top' : 'from the bottom'" :choices="ends" :typed="`units from the ${lab.settings.unit_numbering}`" />
        <FactRow :record="key" field="slack_mm" label="Lead slack" :text="lab.settings.slack_mm === undefined ? '100 mm' : `${lab.settings.slack_mm} mm`" :typed="lab.settings.slack_mm === undefined ? '' : `${lab.settings.slack_mm} mm`" mono />
        <FactRow :record="key" field="label_pattern" label="Cable labels" :text="lab.settings.label_pattern ?? '{panel}.{port:02}'" mono />
        <FactRow :record="key" field="legend" label="Cable colours" :text="lab.settings.legend?.map((m) => `${m.colour}: ${m.means}`).join(', ')" :typed="lab.settings.legend?.map((m) => `${m.colour.startsWith('#') ? `“${m.colour}”` : m.colour} means “${m.means}”`).join(', ') ?? ''" gap="such as yellow means “to the panel”" long />
      </div>
      <v-btn class="done" @click="work.dialog = ''">Done</v-btn>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.box {
  padding: 18px;
}
.done {
  align-self: flex-start;
  margin-top: 14px;
}
</style>
