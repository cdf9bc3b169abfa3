<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import Select from 'primevue/select'
import { nextSummaryAt } from '#core/summary/rule'
import { sayMoment, sayZone, WEEKDAYS } from '#core/time/say'
import type { Weekday } from '#core/time/when'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import { useFrame } from '~/stores/frame'
import TimeField from '~/components/TimeField.vue'
import SettingForm from './SettingForm.vue'

/** Whether and when the owner gets their week by email. `address`: theirs, which is the sender's. */
const props = defineProps<{ address: string }>()
const frame = useFrame()
const { loading, typed, changed, busy, problem, save } = useSetting({
  ask: () => api('GET /summary'), pick: same => same, keep: body => api('PUT /summary', { body }), said: 'The weekly summary is saved.',
})
const DAYS = WEEKDAYS.map((name, n) => ({ value: (n + 1) as Weekday, name }))
const next = computed(() => typed.value && nextSummaryAt(typed.value, frame.now, frame.zone))
</script>

<template>
  <SettingForm
    id="summary" title="Weekly summary" save-label="Save the summary" :loading="loading" :is-there="typed !== null" :changed="changed"
    :busy="busy" :problem="problem" @save="save">
    <template v-if="typed">
      <div class="line">
        <Checkbox v-model="typed.on" binary input-id="summary-on" />
        <label for="summary-on">Email me a summary of the week</label>
      </div>
      <template v-if="typed.on">
        <div class="line">
          <span>Every</span>
          <Select
            v-model="typed.weekday" :options="DAYS" option-label="name" option-value="value" size="small" aria-label="Day of the summary" />
          <span>at</span>
          <TimeField v-model="typed.time" input-id="summary-time" label="Time of the summary" size="small" />
        </div>
        <p v-if="props.address === ''" class="note lamp small">Fill in the sender’s address first. The summary goes there.</p>
        <p v-else-if="next !== null" class="second small">The next one goes to {{ props.address }} on {{ sayMoment(next, frame.zone) }},
          {{ sayZone(frame.zone) }}.</p>
      </template>
      <p v-else class="second small">Growth, sending, courses and sales of seven days, what needs attention and what goes out next.</p>
    </template>
  </SettingForm>
</template>
