<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** The owner's password, and the browsers that are signed in with it. */
const { data: view, load } = useFresh(() => api('GET /sessions'))
const confirm = useConfirm()
const toast = useToast()
const current = ref('')
const password = ref('')
const { busy, problem, attempt } = useAttempt()
const others = computed(() => view.value?.sessions.filter(({ isThis }) => !isThis) ?? [])
// Sessions go by the real clock, in practice as well, and are read where the owner sits.
const here = Intl.DateTimeFormat().resolvedOptions().timeZone
const sayOthers = computed(() => {
  const [latest] = others.value
  if (!latest) return 'No other browser is signed in.'
  const some = saySome(others.value.length, 'other browser is', 'other browsers are')
  return `${some} signed in, last used ${sayMoment(latest.seenAt, here)}.`
})

const change = () => attempt(async () => {
  await api('PUT /password', { body: { current: current.value, password: password.value } })
  current.value = password.value = ''
  await load()
  toast.add({ severity: 'success', summary: 'Password changed', detail: 'Every other browser is signed out.', life: 5000 })
})

function signOutEverywhere() {
  confirm.require({
    header: 'Sign out everywhere', message: 'Every browser is signed out, this one too.',
    acceptProps: { label: 'Sign out everywhere' }, rejectProps: { label: 'Cancel', severity: 'secondary' },
    accept: () => attempt(async () => {
      await api('DELETE /sessions')
      await navigateTo('/sign-in')
    }),
  })
}
</script>

<template>
  <section v-if="view" class="panel" aria-labelledby="sign-in">
    <h2 id="sign-in">Password and sign-in</h2>
    <div class="panel-body fields">
      <p v-if="view.passwordFromEnvironment" class="second">The setting PORCH_PASSWORD decides your password. Change it there.</p>
      <form v-else class="fields" @submit.prevent="change">
        <div class="two-fields">
          <div class="field">
            <label for="current">Current password</label>
            <InputText id="current" v-model="current" type="password" autocomplete="current-password" :invalid="!!problem?.of('current')" />
            <ProblemNote :of="problem" at="current" />
          </div>
          <div class="field">
            <label for="new">New password</label>
            <InputText id="new" v-model="password" type="password" autocomplete="new-password" :invalid="!!problem?.of('password')" />
            <ProblemNote v-if="problem?.of('password')" :of="problem" at="password" />
            <p v-else class="hint">At least 10 characters.</p>
          </div>
        </div>
        <div>
          <Button
            type="submit" label="Change password" severity="secondary" :loading="busy" :disabled="current === '' || password === ''" />
        </div>
      </form>
      <ProblemNote :of="problem" general />
      <p class="second">{{ sayOthers }} After 14 days without use a browser is signed out.</p>
      <div><Button label="Sign out everywhere" severity="secondary" :loading="busy" @click="signOutEverywhere" /></div>
    </div>
  </section>
</template>

<style scoped>
.two-fields { display: grid; grid-template-columns: 1fr 1fr; gap: 12px; }
@media (max-width: 600px) { .two-fields { grid-template-columns: minmax(0, 1fr); } }
</style>
