<script setup lang="ts">
import Button from 'primevue/button'
import { sayZone } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import { useFrame } from '~/stores/frame'
import WeekHours from '~/components/WeekHours.vue'
import TermTip from '~/components/TermTip.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** When emails may leave, in the whole workspace. */
const frame = useFrame()
const {
  loading, typed, changed, busy, problem, save: keep,
} = useSetting({
  ask: () => api('GET /sending-hours'), pick: ({ hours }) => ({ hours }), keep: body => api('PUT /sending-hours', { body }),
  said: 'The sending hours are saved.',
})
async function save() {
  // The rail says at once what goes when from now on.
  if (await keep()) await frame.changed()
}
</script>

<template>
  <form class="panel" aria-labelledby="sending-hours" @submit.prevent="save">
    <h2 id="sending-hours"><TermTip of="sending-hours">Sending hours</TermTip></h2>
    <ProblemNote v-if="loading" :of="loading" line class="panel-body" />
    <div v-else-if="typed" class="panel-body fields">
      <p class="second small">Planned emails leave only in these half-hours, {{ sayZone(frame.zone) }}. What someone has just asked for
        leaves at once.</p>
      <WeekHours v-model="typed.hours" label="Sending hours" />
      <ProblemNote :of="problem" at="hours" whole class="small" />
      <div><Button type="submit" label="Save the sending hours" :disabled="!changed" :loading="busy" /></div>
    </div>
  </form>
</template>
