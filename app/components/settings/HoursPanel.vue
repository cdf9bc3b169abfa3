<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import type { WeekHours as Hours } from '#core/time/hours'
import { sayZone } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import WeekHours from '~/components/WeekHours.vue'

/** When emails may leave, in the whole workspace. */
const frame = useFrame()
const { data: saved, problem: loading } = useFresh(() => api<{ hours: Hours }>('sending-hours'))
const typed = ref<Hours | null>(null)
watch(saved, (now, before) => {
  if (now && (typed.value === null || before?.hours === typed.value)) typed.value = now.hours
})
const changed = computed(() => typed.value !== null && typed.value !== saved.value?.hours)
const { busy, problem, attempt } = useAttempt()
const save = () => attempt(async () => {
  saved.value = await api<{ hours: Hours }>('sending-hours', { method: 'PUT', body: { hours: typed.value } })
  await frame.changed()
})
</script>

<template>
  <form class="panel" aria-labelledby="sending-hours" @submit.prevent="save">
    <h2 id="sending-hours">Sending hours</h2>
    <p v-if="loading" class="panel-body problem" role="alert">{{ loading }}</p>
    <div v-else-if="typed" class="panel-body fields">
      <p class="second small">Emails of courses and house rules leave only in these half-hours, by {{ sayZone(frame.frame?.workspace.zone ?? 'UTC') }} or, where a step says so, the reader’s own. What falls outside waits for the next opening, and what follows counts from then. What somebody has just asked for comes at once.</p>
      <WeekHours v-model="typed" label="Sending hours" />
      <p v-if="problem" class="problem small" role="alert">{{ problem.of('hours') ?? problem.message }}</p>
      <div><Button type="submit" label="Save the sending hours" :disabled="!changed" :loading="busy" /></div>
    </div>
  </form>
</template>

<style scoped>
.problem { color: var(--p-porch-brick); }
</style>
