<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Select from 'primevue/select'
import type { SubscriberView } from '#core/views/people'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'

/** Why did they, or did they not, get one email: chosen here, or pressed in the list of their emails. */
const props = defineProps<{ view: SubscriberView }>()
const asked = defineModel<string | null>({ required: true })
const { problem, attempt } = useAttempt()
const emit = defineEmits<{ changed: [] }>()
const sentences = ref<string[]>([])

/** The latest sending of that email, which can go once more as it was worded then. */
const latest = computed(() => props.view.emails.find(email => `${email.courseId} ${email.stepId}` === asked.value))
const canGoAgain = computed(() => latest.value !== undefined && !['queued', 'leased', 'handing over'].includes(latest.value.status))
const again = () => attempt(async () => {
  await api(`emails/${latest.value!.id}/again`, { method: 'POST' })
  emit('changed')
})

const groups = computed(() => [...new Set(props.view.askable.map(one => one.courseName))].map(name => ({
  name, emails: props.view.askable.filter(one => one.courseName === name).map(one => ({ value: `${one.courseId} ${one.stepId}`, name: one.title })),
})))
watch([asked, () => props.view], async () => {
  sentences.value = []
  if (!asked.value) return
  const [course, step] = asked.value.split(' ')
  const question = asked.value
  await attempt(async () => {
    const answer = await api<string[]>(`subscribers/${props.view.person.id}/why?${new URLSearchParams({ course: course!, step: step! })}`)
    if (asked.value === question) sentences.value = answer
  })
})
</script>

<template>
  <section class="panel" aria-labelledby="why">
    <h2 id="why">Why did they, or did they not, get it?</h2>
    <div class="panel-body">
      <Select v-model="asked" :options="groups" option-group-label="name" option-group-children="emails" option-label="name" option-value="value" placeholder="choose an email" filter show-clear aria-label="Which email" class="which" />
      <div v-if="sentences.length" class="answer" role="status">
        <p><strong>{{ sentences[0] }}</strong></p>
        <p v-for="sentence in sentences.slice(1)" :key="sentence" class="second">{{ sentence }}</p>
      </div>
      <p v-if="sentences.length && canGoAgain">
        <button type="button" class="link-button" @click="again">
          {{ latest!.handedOverAt === null ? 'Send it to them now' : 'Send it to them once more' }}
        </button>
      </p>
      <p v-if="problem" class="problem small" role="alert">{{ problem.message }}</p>
    </div>
  </section>
</template>

<style scoped>
.which { width: 100%; }
.answer { display: grid; gap: 4px; padding-top: 12px; }
.problem { color: var(--p-porch-brick); }
</style>
