<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { sayMoment, sayZone } from '#core/time/say'
import type { SettingsView } from '#core/views/settings'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { endDot } from '#core/time/say'
import { saySome } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** How sending stands in live, and what the owner can do about it. */
const props = defineProps<{ settings: SettingsView }>()
const emit = defineEmits<{ resumed: [] }>()
const said = ref<string | null>(null)
const { busy, problem, attempt } = useAttempt()

const standing = computed(() => {
  const { carrierState, carrierReason, carrierSinceAt, carrierPauseUntilAt, zone } = props.settings
  if (carrierState === 'stopped') {
    return `Stopped since ${sayMoment(carrierSinceAt!, zone)}, ${sayZone(zone)}: ${endDot(carrierReason)} Every email waits, and none is lost.`
  }
  if (carrierPauseUntilAt !== null) return `The mail server could not be reached. ${endDot(carrierReason)} It is tried again automatically.`
  return 'Emails leave as they come due.'
})
const halted = computed(() => props.settings.carrierState === 'stopped' || props.settings.carrierPauseUntilAt !== null)

const tryServer = () => attempt(async () => {
  const answer = await api('POST /carrier/try', { body: { smtpUrl: props.settings.smtpUrl } })
  said.value = answer.problem ?? 'The mail server accepts the sign-in. Nothing was sent.'
})
const resume = () => attempt(async () => {
  await api('POST /carrier/resume')
  emit('resumed')
  said.value = 'Sending continues.'
})
const resumeDomain = (domain: string) => attempt(async () => {
  await api('POST /carrier/domains/:domain', { at: { domain } })
  emit('resumed')
  said.value = `Sending to ${domain} continues.`
})
const endPause = (domain: string) => attempt(async () => {
  await api('DELETE /carrier/pauses/:domain', { at: { domain } })
  emit('resumed')
  said.value = `${domain} is tried again now.`
})
</script>

<template>
  <section class="panel" aria-labelledby="carrier">
    <h2 id="carrier">Sending</h2>
    <div class="panel-body fields">
      <p :class="{ problem: settings.carrierState === 'stopped' }">{{ standing }}</p>
      <ProblemNote v-if="problem" :of="problem" />
      <p v-else-if="said" class="note" role="status">{{ said }}</p>
      <p v-if="settings.slowed" class="note lamp">
        The mail server asked us to slow down: “{{ settings.slowed.said }}”.
        {{ settings.slowed.to === 1 ? 'One email goes' : `${settings.slowed.to} emails go` }} at a time for now.
      </p>
      <div v-for="stopped in settings.stoppedDomains" :key="stopped.domain" class="stopped">
        <p class="problem"><strong>{{ stopped.domain }}</strong>: stopped since {{ sayMoment(stopped.sinceAt, settings.zone) }}.
          {{ endDot(stopped.reason) }} {{ saySome(stopped.waiting, 'email waits', 'emails wait') }}.</p>
        <Button
          :label="`Send to ${stopped.domain} again`" severity="secondary" size="small" :loading="busy" @click="resumeDomain(stopped.domain)"
        />
      </div>
      <div v-for="one in settings.pausingDomains" :key="one.domain" class="stopped">
        <p class="note lamp"><strong>{{ one.domain }}</strong> asks us to wait: “{{ endDot(one.said) }}” We try again
          on {{ sayMoment(one.untilAt, settings.zone) }}.
          <template v-if="one.pauses > 1">This is pause {{ one.pauses }} in a row. </template><template
            v-if="one.waiting > 0">{{ saySome(one.waiting, 'email waits', 'emails wait') }} for that.</template></p>
        <Button :label="`Try ${one.domain} now`" severity="secondary" size="small" :loading="busy" @click="endPause(one.domain)" />
      </div>
      <div class="tools">
        <Button label="Try the mail server" severity="secondary" :loading="busy" @click="tryServer" />
        <Button v-if="halted" label="Resume sending" :loading="busy" @click="resume" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.stopped { display: grid; gap: 6px; justify-items: start; }
.tools { display: flex; gap: 8px; }
</style>
