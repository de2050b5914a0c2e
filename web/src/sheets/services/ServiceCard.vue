<script setup lang="ts">
// The card of the service, stack, cluster or template that is picked, or what is to be done
// about what runs as a whole.
import IfGone from '../../card/IfGone.vue'
import SheetCard from '../../card/SheetCard.vue'
import { useLab } from '../../lab/useLab'
import { useServices } from '../../work/useServices'

const { lab } = useLab()
const { running } = useServices()
const count = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
const guests = () => (running.value?.hosts ?? []).reduce((n, h) => n + h.guests, 0)
</script>

<template>
  <SheetCard v-if="running" sheet="/services" name="Services" :concerns="(f) => f.service" :some="!!running.hosts.length">
    <template #sum>
      {{ count(running.hosts.length, 'host') }}, {{ count(guests(), 'guest') }}, {{ count(lab?.services.size ?? 0, 'service') }}
    </template>
    <template #default="{ record }"><IfGone v-if="record.kind === 'service'" :record="record" /></template>
  </SheetCard>
</template>
