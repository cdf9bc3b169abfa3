<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import SettingForm from './SettingForm.vue'

/** How live mail is handed over, and when refusals stop it. */
const { loading, typed, changed, busy, problem, save } = useSetting({
  ask: () => api('GET /sending'), pick: same => same, keep: body => api('PUT /sending', { body }),
})
</script>

<template>
  <SettingForm
    id="pace" title="How mail is handed over" save-label="Save how mail is handed over" :loading="loading" :is-there="typed !== null"
    :changed="changed" :busy="busy" :problem="problem" @save="save">
    <template v-if="typed">
      <div class="line"><label for="connections">Up to</label><InputNumber v-model="typed.connections" input-id="connections" :min="1" :max="20" :allow-empty="false" size="small" suffix=" emails" /> at a time, <label for="messages">and</label><InputNumber v-model="typed.messages" input-id="messages" :min="1" :max="10000" :allow-empty="false" size="small" /> on one connection.</div>
      <div class="line"><label for="a-minute">At most</label><InputNumber v-model="typed.aMinute" input-id="a-minute" :min="1" :max="10000" size="small" placeholder="no limit" /> a minute.</div>
      <p class="second small">When the mail server asks for fewer, fewer go; more again when it goes well.</p>
      <h3>When refusals stop sending</h3>
      <p class="second small">Several refusals alike are about us, not about the people: nobody is marked as bounced, and nothing is lost.</p>
      <div class="line"><InputNumber v-model="typed.domains" :min="2" :max="50" :allow-empty="false" size="small" aria-label="How many domains" /> domains within <InputNumber v-model="typed.minutes" :min="1" :max="1440" :allow-empty="false" size="small" suffix=" minutes" aria-label="Within how many minutes" /> stop all sending.</div>
      <div class="line"><InputNumber v-model="typed.refusedOfDomain" :min="2" :max="50" :allow-empty="false" size="small" aria-label="How many refused at one domain" /> of the last <InputNumber v-model="typed.lastOfDomain" :min="2" :max="100" :allow-empty="false" size="small" aria-label="Of how many at one domain" /> emails to one domain stop that domain.</div>
      <div class="line"><InputNumber v-model="typed.softTimes" :min="1" :max="50" :allow-empty="false" size="small" aria-label="How many times" /> refusals for a full or unclear mailbox in <InputNumber v-model="typed.softDays" :min="1" :max="365" :allow-empty="false" size="small" suffix=" days" aria-label="In how many days" /> count as bounced.</div>
    </template>
  </SettingForm>
</template>

<style scoped>
h3 { font-size: 14px; padding-top: 6px; }
</style>
