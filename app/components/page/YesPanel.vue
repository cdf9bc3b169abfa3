<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { confirmationTimes, newConfirming, type Confirming } from '#core/page/confirm'
import { sayMoment, sayZone } from '#core/time/say'
import { useFrame } from '~/stores/frame'
import { LineEditor, RichEditor } from '~/editor/lazy'
import EmailCard from '~/components/email/EmailCard.vue'

/** Whether and how people are asked to say yes by email. */
const confirming = defineModel<Confirming>({ required: true })
defineProps<{ listId: number | null, problem?: string }>()
const frame = useFrame()
const WHO: { value: Confirming['who'], name: string }[] = [{ value: 'everybody', name: 'Everybody' }, { value: 'nobody', name: 'Nobody' }]
const zone = computed(() => frame.zone)
const times = computed(() => confirmationTimes(confirming.value, frame.now))
const reminds = computed({
  get: () => confirming.value.reminder !== null,
  set: (on: boolean) => {
    confirming.value.reminder = on ? newConfirming().reminder : null
  },
})
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-label="Who is asked">
      <div class="field">
        <span class="label">People asked to confirm by email</span>
        <SelectButton
          v-model="confirming.who" :options="WHO" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="People asked to confirm by email" />
      </div>
      <p v-if="confirming.who === 'nobody'" class="second">
        The button is enough, so anyone can type someone else’s address. Typed names are used only after a click in an email, nothing you
        already know is changed, and people who left are still asked to confirm.
      </p>
      <p v-else class="second">
        Lists, tags and courses count from the moment they confirm. Until then, only this question is sent, and nothing about people
        you know already changes.
      </p>
    </section>
    <template v-if="confirming.who !== 'nobody'">
      <section class="panel panel-body fields" aria-labelledby="the-question">
        <h2 id="the-question">Confirmation email</h2>
        <p class="second small">Typed names are not used until people confirm. New people see the fallback instead.</p>
        <EmailCard own v-model="confirming.mail" kind="confirmation" :list-id="listId" :problem="problem" />
      </section>
      <section class="panel panel-body fields" aria-labelledby="its-time">
        <h2 id="its-time">If they don’t confirm</h2>
        <p class="line">
          <Checkbox v-model="reminds" input-id="reminds" binary />
          <label for="reminds">Send a reminder</label>
          <template v-if="confirming.reminder">after <InputNumber
            v-model="confirming.reminder.afterHours" :min="1" :max="720" :allow-empty="false" suffix=" hours"
            aria-label="Hours until the reminder" size="small" /></template>
        </p>
        <div v-if="confirming.reminder" class="field">
          <span class="label">with the same email and this subject</span>
          <LineEditor v-model="confirming.reminder.subject" label="Subject of the reminder" />
        </div>
        <p class="line">
          <span>They can confirm within</span>
          <InputNumber
            v-model="confirming.withinDays" :min="1" :max="60" :allow-empty="false" suffix=" days (24 hours)"
            aria-label="Days to confirm" size="small" />
        </p>
        <p class="second" aria-live="polite">Someone who opts in now
          {{ times.remindAt === null ? 'gets no reminder' : `gets the reminder ${sayMoment(times.remindAt, zone)}` }} and can confirm until
          {{ sayMoment(times.expiresAt, zone) }}, {{ sayZone(zone) }}. After that, one click sends them a new email.</p>
      </section>
      <section class="panel panel-body fields" aria-labelledby="the-waiting">
        <h2 id="the-waiting">Page shown until they confirm</h2>
        <div class="field">
          <label for="wait-headline">Headline</label>
          <InputText id="wait-headline" v-model="confirming.waitHeadline" maxlength="200" />
        </div>
        <div class="field">
          <span class="label">Text</span>
          <RichEditor v-model="confirming.waitText" label="Text until they confirm" />
          <p class="hint">Your sender’s name and address appear below it.</p>
        </div>
      </section>
    </template>
  </div>
</template>

<style scoped>
.line { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
.line :deep(.p-inputnumber-input) { width: 150px; }
</style>
