<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { definePageMeta, navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import PorchMark from '~/components/PorchMark.vue'

definePageMeta({ layout: 'signed-out' })

const route = useRoute()
const firstTime = ref<boolean | null>(null)
const password = ref('')
/** Others could be first here: only who can read what the start printed chooses. */
const wantsCode = ref(false)
const code = ref('')
const { busy, problem, attempt } = useAttempt()
const passwordProblem = computed(() => {
  if (!problem.value || problem.value.of('code')) return null
  return problem.value.of('password') ?? problem.value.message
})
const shown = ref(false)

onMounted(async () => {
  const session = await api('GET /session')
  wantsCode.value = session.wantsCode
  firstTime.value = !session.hasPassword
})

async function enter() {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone ?? ''
  const entered = await attempt(() => firstTime.value
    ? api('POST /password', { body: { password: password.value, zone, code: code.value } })
    : api('POST /session', { body: { password: password.value } }))
  if (!entered) return
  const to = typeof route.query.to === 'string' && route.query.to.startsWith('/') && !route.query.to.startsWith('//') ? route.query.to : '/'
  await navigateTo(to)
}
</script>

<template>
  <form v-if="firstTime !== null" class="panel sheet" @submit.prevent="enter">
    <p class="brand"><span class="mark"><PorchMark /></span> Keen Porch</p>
    <h1>{{ firstTime ? 'Choose a password' : 'Sign in' }}</h1>
    <p v-if="firstTime" class="second">You sign in with this password from now on.</p>
    <div v-if="firstTime && wantsCode" class="field">
      <label for="code">Code</label>
      <InputText
        id="code" v-model="code" class="mono" fluid autocomplete="one-time-code" autofocus :invalid="!!problem?.of('code')"
        aria-describedby="code-hint" />
      <p id="code-hint" :class="problem?.of('code') ? 'problem' : 'hint'">
        {{ problem?.of('code') ?? 'It was printed where the application was started.' }}
      </p>
    </div>
    <div class="field">
      <label for="password">Password</label>
      <div class="secret">
        <InputText
          id="password" v-model="password" :type="shown ? 'text' : 'password'" fluid :invalid="!!passwordProblem"
          :autocomplete="firstTime ? 'new-password' : 'current-password'" :autofocus="!wantsCode"
          :aria-describedby="passwordProblem ? 'password-problem' : undefined" />
        <button type="button" class="look" :aria-pressed="shown" aria-label="Show what is typed" @click="shown = !shown">
          <i class="pi" :class="shown ? 'pi-eye-slash' : 'pi-eye'" aria-hidden="true" />
        </button>
      </div>
      <p v-if="passwordProblem" id="password-problem" class="problem" role="alert">{{ passwordProblem }}</p>
      <p v-else-if="firstTime" class="hint">At least 10 characters.</p>
    </div>
    <Button type="submit" :label="firstTime ? 'Choose this password' : 'Sign in'" :loading="busy" />
  </form>
</template>

<style scoped>
.sheet { width: 360px; max-width: 100%; padding: 26px 28px 28px; display: grid; gap: 14px; border-top: 6px solid var(--p-porch-lamp); }
.secret { position: relative; }
.look {
  position: absolute; right: 4px; top: 4px; width: 30px; height: calc(100% - 8px); border: 0; border-radius: 4px; background: none;
  color: var(--p-porch-ink-second); cursor: pointer;
}
.brand { display: flex; align-items: center; gap: 8px; font: 650 15px/1 var(--heading); }
.mark { display: grid; place-items: center; width: 34px; height: 34px; border-radius: 6px; background: var(--p-porch-dusk); }
</style>
