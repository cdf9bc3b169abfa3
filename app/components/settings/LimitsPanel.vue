<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import RadioButton from 'primevue/radiobutton'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import SettingForm from './SettingForm.vue'

/** How close together emails to one person come, and how many. */
const { loading, typed, changed, busy, problem, save } = useSetting({
  ask: () => api('GET /sending-limits'), pick: same => same, keep: body => api('PUT /sending-limits', { body }),
  said: 'The limits are saved.',
})
</script>

<template>
  <SettingForm
    id="limits" title="How many emails one person gets" save-label="Save the limits" :loading="loading" :is-there="typed !== null"
    :changed="changed" :busy="busy" :problem="problem" @save="save">
    <template v-if="typed">
      <p class="second small">Counts emails of courses and house rules, by the reader’s own day where it is known. Receipts and what
        someone has just asked for always leave.</p>
      <div class="line"><label for="gap">At least</label><InputNumber
        v-model="typed.gapMinutes" input-id="gap" :min="0" :max="10080" :allow-empty="false" size="small" suffix=" minutes" /> between two
        emails.</div>
      <p class="second small">It only delays the sending, never the plan.</p>
      <div class="line"><label for="a-day">At most</label><InputNumber
        v-model="typed.aDay" input-id="a-day" :min="1" :max="50" size="small" placeholder="any" /> a day, and <label
        for="a-week" class="hidden">at most a week</label><InputNumber
        v-model="typed.aWeek" input-id="a-week" :min="1" :max="200" size="small" placeholder="any" /> in any seven days.</div>
      <fieldset v-if="typed.aDay !== null || typed.aWeek !== null">
        <legend>An email above the limit</legend>
        <div class="line">
          <RadioButton v-model="typed.tooMany" input-id="wait" value="wait" />
          <label for="wait">waits for the first free day, at the same time of day</label>
        </div>
        <div class="line">
          <RadioButton v-model="typed.tooMany" input-id="drop" value="drop" />
          <label for="drop">is held back, and its course continues</label>
        </div>
      </fieldset>
      <p class="second small">If a day has room for only one, courses that were bought come first, then other courses, then house rules.</p>
    </template>
  </SettingForm>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; display: grid; gap: 6px; }
legend { padding: 0 0 4px; font-weight: 600; }
.hidden { position: absolute; width: 1px; height: 1px; overflow: hidden; clip-path: inset(50%); }
</style>
