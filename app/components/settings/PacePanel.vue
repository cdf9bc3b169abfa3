<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { api } from '~/composables/useApi'
import { useSetting } from '~/composables/useSetting'
import SettingForm from './SettingForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** How live mail is handed over, and when refusals stop it. */
const { loading, typed, changed, busy, problem, save } = useSetting({
  ask: () => api('GET /sending'), pick: same => same, keep: body => api('PUT /sending', { body }), said: 'The sending speed is saved.',
})
const problemAt = (n: number) => problem.value?.of(`domainRates.domains.${n}.domain`)
</script>

<template>
  <SettingForm
    id="pace" title="Sending speed" save-label="Save the sending speed" :loading="loading" :is-there="typed !== null"
    :changed="changed" :busy="busy" :problem="problem" @save="save">
    <template v-if="typed">
      <div class="line"><label for="connections">Up to</label><InputNumber
        v-model="typed.connections" input-id="connections" :min="1" :max="20" :allow-empty="false" size="small" suffix=" emails" /> at a
        time, <label for="messages">and</label><InputNumber
          v-model="typed.messages" input-id="messages" :min="1" :max="10000" :allow-empty="false" size="small" /> on one connection.</div>
      <div class="line"><label for="a-minute">At most</label><InputNumber
        v-model="typed.aMinute" input-id="a-minute" :min="1" :max="10000" size="small" placeholder="no limit" /> a minute.</div>
      <p class="second small">If the mail server asks for fewer, we slow down, and speed up again when all goes well.</p>
      <h3>To one receiving domain</h3>
      <div class="line">
        <label for="every-domain">At most</label>
        <InputNumber
          v-model="typed.domainRates.everyDomain" input-id="every-domain" :min="1" :max="10000" size="small" placeholder="no limit" />
        a minute to any one domain.
      </div>
      <div v-for="(one, n) in typed.domainRates.domains" :key="n" class="line">
        <InputText
          v-model="one.domain" size="small" class="mono" maxlength="254" placeholder="example.com" :aria-label="`Domain ${n + 1}`"
          :invalid="!!problemAt(n)" />
        <InputNumber
          v-model="one.aMinute" :min="1" :max="10000" :allow-empty="false" size="small"
          :aria-label="`Emails a minute to ${one.domain || `domain ${n + 1}`}`" /> a minute
        <button
          type="button" class="link-button small" :aria-label="`Remove ${one.domain || `domain ${n + 1}`}`"
          @click="typed.domainRates.domains.splice(n, 1)">Remove</button>
        <ProblemNote :of="problemAt(n)" line class="small" />
      </div>
      <div>
        <Button
          v-if="typed.domainRates.domains.length < 100" type="button" label="Add a domain" icon="pi pi-plus" severity="secondary"
          size="small"
          @click="typed.domainRates.domains.push({ domain: '', aMinute: 60 })" />
      </div>
      <p class="second small">A domain that puts emails off is left alone for a minute, then 5, 15 and more, until it accepts one.</p>
      <h3>When refusals stop sending</h3>
      <p class="second small">Many equal refusals mean the problem is ours: nobody is marked as bounced, and nothing is lost.</p>
      <div class="line"><InputNumber
        v-model="typed.domains" :min="2" :max="50" :allow-empty="false" size="small" aria-label="How many domains" /> domains within
        <InputNumber
          v-model="typed.minutes" :min="1" :max="1440" :allow-empty="false" size="small" suffix=" minutes"
          aria-label="Within how many minutes" /> stop all sending.</div>
      <div class="line"><InputNumber
        v-model="typed.refusedOfDomain" :min="2" :max="50" :allow-empty="false" size="small" aria-label="Refusals at one domain" /> of the
        last <InputNumber
          v-model="typed.lastOfDomain" :min="2" :max="100" :allow-empty="false" size="small" aria-label="Emails at one domain" /> emails
        to one domain stop that domain.</div>
      <div class="line"><InputNumber
        v-model="typed.softTimes" :min="1" :max="50" :allow-empty="false" size="small" aria-label="How many times" /> refusals for a full or
        unclear mailbox in <InputNumber
          v-model="typed.softDays" :min="1" :max="365" :allow-empty="false" size="small" suffix=" days" aria-label="In how many days" />
        count as bounced.</div>
    </template>
  </SettingForm>
</template>

<style scoped>
h3 { font-size: 14px; padding-top: 6px; }
</style>
