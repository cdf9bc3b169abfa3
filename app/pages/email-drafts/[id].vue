<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import { nameOfMessage, type MessageContent } from '#core/message/content'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { useUndo } from '~/stores/undo'
import EmailDesk from '~/components/email/EmailDesk.vue'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import SaveNote from '~/components/SaveNote.vue'
import SelectField from '~/components/SelectField.vue'

/** An email that stands nowhere yet. */
const id = Number(useRoute().params.id)
const { tags } = useMarks()
const typed = ref<{ content: MessageContent } | null>(null)
const { data: draft, problem: notThere } = useFresh(() => api('GET /email-drafts/:id', { at: { id } }))
watch(draft, (first) => {
  if (first === null || typed.value) return
  typed.value = { content: first.content }
  saving.revision.value = first.revision
})
const saving = useDraft(typed, async (body, ifMatch) =>
  (await api('PUT /email-drafts/:id', { at: { id }, body, ifMatch })).revision)
const { state, problem: notSaved, flush } = saving
const title = computed(() => typed.value ? nameOfMessage(typed.value.content) || 'An email without a title' : 'An email')

/* Into a course */

const placing = ref(false)
const courseId = ref<number | null>(null)
const { data: courses } = useFresh(() => api('GET /courses'))
const options = computed(() => (courses.value ?? []).map(({ id: value, name }) => ({ value, name })))
const { busy, problem, attempt } = useAttempt()
async function place() {
  if (!await flush()) return
  const to = courseId.value!
  let stepId = ''
  if (!await attempt(async () => {
    stepId = (await api('POST /email-drafts/:id/place', { at: { id }, body: { courseId: to } })).stepId
  })) return
  await navigateTo(`/courses/${to}?email=${stepId}`)
}
const undo = useUndo()
async function remove() {
  const content = typed.value!.content
  if (!await attempt(() => api('DELETE /email-drafts/:id', { at: { id } }))) return
  await navigateTo('/email-parts?at=emails')
  undo.did({ said: 'The draft is deleted.', undo: async () => {
    const made = await api('POST /email-drafts', { body: { content } })
    await navigateTo(`/email-drafts/${made.id}`)
  } })
}
</script>

<template>
  <div>
    <ProblemNote v-if="notThere" :of="notThere" />
    <template v-else-if="typed">
      <PageHead :title="title" :back="{ to: '/email-parts?at=emails', name: 'All emails' }">
        A draft that is used nowhere yet. <SaveNote :draft="saving" :state="state" :problem="notSaved?.message ?? null" />
        <template #actions>
          <Button label="Delete the draft" severity="secondary" @click="remove" />
          <Button label="Put it into a course" @click="placing = true" />
        </template>
      </PageHead>
      <ProblemNote v-if="!placing" :of="problem" />
      <EmailDesk v-model="typed.content" kind="course" :list-id="null" :tags="tags" />
    </template>
    <Dialog v-model:visible="placing" modal header="Put it into a course" :style="{ width: '440px' }">
      <form class="fields" @submit.prevent="place">
        <SelectField v-model="courseId" label="Course" :options="options" filter placeholder="choose a course">
          <p class="hint">It becomes the last email, a day after the one before it. A running course sends it once you publish its changes.</p>
        </SelectField>
        <ProblemNote :of="problem" general />
        <div class="ends"><Button type="submit" label="Put it there" :loading="busy" :disabled="courseId === null" /></div>
      </form>
    </Dialog>
  </div>
</template>

<style scoped>
.ends { display: flex; justify-content: flex-end; }
</style>
