<script setup lang="ts">
// What sets a port apart from the others of its group, edited where it stands.
import { computed } from 'vue'
import type { Device, Schemas } from '../../api/client'
import FactRow from '../../card/FactRow.vue'
import { useCabling, type Jack } from '../../work/useCabling'

const props = defineProps<{ device: Device; jack: Jack }>()
const { markPort } = useCabling()
const mark = (more: Partial<Schemas['PortMark']>, base: number) =>
  markPort({ device_id: props.device.id, port: props.jack.port }, more, base)
const marks = computed(() => [
  { field: 'name', label: 'Name', is: props.jack.name, keeps: (name: string, base: number) => mark({ name }, base) },
  {
    field: 'reserved_for',
    label: 'Reserved for',
    is: props.jack.reserved_for,
    keeps: (text: string, base: number) => mark({ reserved_for: text }, base),
  },
  { field: 'note', label: 'Note', is: props.jack.note, keeps: (note: string, base: number) => mark({ note }, base) },
])
const conditions = [
  { value: 'in order', title: 'in order' },
  { value: 'broken', title: 'broken' },
]
</script>

<template>
  <FactRow
    v-for="m in marks"
    :key="m.field"
    :record="{ kind: 'device', id: device.id }"
    :field="m.field"
    :label="m.label"
    :text="m.is || 'none'"
    :typed="m.is ?? ''"
    :keeps="m.keeps" />
  <FactRow
    :record="{ kind: 'device', id: device.id }"
    field="broken"
    label="Condition"
    :text="jack.broken ? 'broken' : 'in order'"
    :choices="conditions"
    :keeps="(text, base) => mark({ broken: text === 'broken' }, base)" />
</template>
