<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Select from 'primevue/select'
import type { EmailOfPerson, SubscriberView } from '#core/views/people'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useNewest } from '~/composables/useNewest'
import ProblemNote from '~/components/ProblemNote.vue'

/** Why did they, or did they not, get one email: chosen here, or pressed in the list of their emails. */
const props = defineProps<{ view: SubscriberView }>()
const asked = defineModel<string | null>({ required: true })
const { problem, attempt } = useAttempt()
const emit = defineEmits<{ changed: [] }>()
const sentences = ref<string[]>([])

const keyOf = ({ kind, ownerId, itemId }: EmailOfPerson) => `${kind} ${ownerId} ${itemId}`

/** The latest sending of that email, which can go once more as it was worded then. */
const latest = computed(() => props.view.emails.find(email => keyOf(email) === asked.value))
const canGoAgain = computed(() => latest.value?.kind === 'course' && !['queued', 'leased', 'handing over'].includes(latest.value.status))
const again = () => attempt(async () => {
  await api('POST /emails/:id/again', { at: { id: latest.value!.id } })
  emit('changed')
})

const groups = computed(() => [...new Set(props.view.askable.map(one => one.courseName))].map(name => ({
  name, emails: props.view.askable.filter(one => one.courseName === name)
    .map(one => ({ value: `course ${one.courseId} ${one.stepId}`, name: one.title })),
})))
/** What else they got, or were to get, besides the emails of courses. */
const others = computed(() => new Map(props.view.emails.filter(email =>
  !groups.value.some(({ emails }) => emails.some(one => one.value === keyOf(email))))
  .map(email => [keyOf(email), `${email.title}, ${email.of}`])))
const choices = computed(() => others.value.size === 0 ? groups.value
  : [...groups.value, { name: 'Other emails', emails: [...others.value].map(([value, name]) => ({ value, name })) }])
const newest = useNewest()
watch([asked, () => props.view], async () => {
  const isNewest = newest()
  sentences.value = []
  if (!asked.value) return
  const [kind, owner, ...item] = asked.value.split(' ')
  await attempt(async () => {
    const answer = await api('GET /subscribers/:id/why', {
      at: { id: props.view.person.id }, query: { kind: kind!, owner: owner!, item: item.join(' ') },
    })
    if (isNewest()) sentences.value = answer
  })
})
</script>

<template>
  <section class="panel" aria-labelledby="why">
    <h2 id="why">Why did they (not) get it?</h2>
    <div class="panel-body">
      <Select
        v-model="asked" :options="choices" option-group-label="name" option-group-children="emails" option-label="name" option-value="value"
        placeholder="choose an email" filter show-clear aria-label="Which email" class="which" />
      <div v-if="sentences.length" class="answer" role="status">
        <p><strong>{{ sentences[0] }}</strong></p>
        <p v-for="sentence in sentences.slice(1)" :key="sentence" class="second">{{ sentence }}</p>
      </div>
      <p v-if="sentences.length && canGoAgain">
        <button type="button" class="link-button" @click="again">
          {{ latest!.handedOverAt === null ? 'Send it to them now' : 'Send it to them again' }}
        </button>
      </p>
      <ProblemNote :of="problem" line class="small" />
    </div>
  </section>
</template>

<style scoped>
.which { width: 100%; }
.answer { display: grid; gap: 4px; padding-top: 12px; }
</style>
