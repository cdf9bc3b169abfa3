<script setup lang="ts">
import AstrayNotes from '~/components/AstrayNotes.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputNumber from 'primevue/inputnumber'
import RadioButton from 'primevue/radiobutton'
import type { CourseView, StartOutlook } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'

/** Says what is missing and whom starting a course reaches; then starts it. */
const props = defineProps<{ course: CourseView, revision?: string, title: (stepId: string) => string, flush: () => Promise<boolean> }>()
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ done: [said: string], /** What is written was changed on the server. */ afresh: [] }>()

const outlook = ref<StartOutlook | null>(null)
const include = ref<'none' | 'now' | 'spread' | 'by-joining'>('none')
const days = ref(7)
const { busy, problem, attempt } = useAttempt()
watch(visible, (open) => {
  if (open) void attempt(async () => outlook.value = await api('GET /courses/:id/outlook/start', { at: { id: props.course.id } }))
}, { immediate: true })
const waiting = computed(() => outlook.value?.kind === 'now' ? outlook.value.waiting : 0)
const byJoining = computed(() => outlook.value?.kind === 'now' ? [...outlook.value.byJoining].sort((a, b) => b.people - a.people) : [])
const past = computed(() => byJoining.value.find(({ stepId }) => stepId === null)?.people ?? 0)
const everybodyLooked = computed(() => outlook.value?.kind === 'now' && outlook.value.looked === outlook.value.waiting)

const go = () => attempt(async () => {
  const { scheduledEntries } = await api('POST /courses/:id/start', { at: { id: props.course.id }, ifMatch: props.revision, body: {
      include: include.value === 'spread' ? { kind: 'spread', days: days.value } : { kind: include.value },
      people: include.value === 'none' ? null : waiting.value,
    } })
  const coming = outlook.value?.kind === 'by-date'
    ? `${sayPeople(scheduledEntries)} will join on their date.`
    : scheduledEntries > 0
      ? `${sayPeople(scheduledEntries)} ${scheduledEntries === 1 ? 'is' : 'are'} on their way in.`
      : 'It waits for the first person.'
  emit('done', `The course runs. ${coming}`)
  visible.value = false
})
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="`Start ${course.name}`" :style="{ width: '560px' }">
    <div class="fields">
      <AstrayNotes :astray="course.astray" :flush="flush" @mended="emit('afresh')" />
      <p v-if="course.outlook.emptyEmails">{{ saySome(course.outlook.emptyEmails, 'email is', 'emails are') }} still empty. People will
        wait before the first empty one until you write and publish it.</p>
      <template v-if="outlook?.kind === 'by-date'">
        <p v-if="outlook.people > 0">{{ sayPeople(outlook.people) }} {{ outlook.people === 1 ? 'has' : 'have' }} that date. Each joins
          automatically, in time for the first step of the next return that is still ahead.</p>
        <p v-else>Nobody has that date yet. People join when they get one.</p>
      </template>
      <template v-else-if="outlook">
        <template v-if="waiting > 0">
          <p>{{ sayPeople(outlook.total) }} {{ outlook.total === 1 ? 'has' : 'have' }} what starts
            it<template v-if="waiting < outlook.total">; {{ sayNumber(waiting) }} of them can get mail, can join and
              {{ waiting === 1 ? 'has' : 'have' }} not been inside</template>. What about them?</p>
          <div class="choice">
            <RadioButton v-model="include" input-id="include-none" value="none" />
            <label for="include-none">Leave them out. Only people who get it from now on will join.</label>
          </div>
          <div class="choice">
            <RadioButton v-model="include" input-id="include-now" value="now" />
            <label for="include-now">Take {{ waiting === 1 ? 'that one person' : `all ${sayPeople(waiting)}` }} in now, from the first
              step.</label>
          </div>
          <div class="choice">
            <RadioButton v-model="include" input-id="include-spread" value="spread" />
            <label for="include-spread">Let them join from the first step, spread evenly over</label>
            <InputNumber
              v-model="days" :min="1" :max="90" :allow-empty="false" size="small" :suffix="days === 1 ? ' day' : ' days'"
              aria-label="Spread over how many days" @focus="include = 'spread'" />
          </div>
          <div class="choice">
            <RadioButton v-model="include" input-id="include-by" value="by-joining" />
            <label for="include-by">By the date they got it: each joins at the first step still ahead. Earlier emails are not sent.</label>
          </div>
          <ul v-if="include === 'by-joining'" class="where small">
            <li v-for="place in byJoining.filter(({ stepId }) => stepId !== null)" :key="place.stepId!">{{ sayPeople(place.people) }} before
              “{{ title(place.stepId!) }}”</li>
            <li v-if="past">{{ sayPeople(past) }} would have finished by now, and {{ past === 1 ? 'stays' : 'stay' }} out</li>
            <li v-if="!everybodyLooked" class="second">of the first {{ sayNumber(outlook.looked) }} that were checked</li>
          </ul>
        </template>
        <p v-else-if="outlook.total > 0">{{ sayPeople(outlook.total) }} {{ outlook.total === 1 ? 'has' : 'have' }} what starts it, and
          none of them can join now. People who get it from now on can.</p>
        <p v-else-if="course.draft.wayInTagIds.length || course.draft.wayInListIds?.length || course.entriesAndExits.in.length">Nobody is
          waiting to join. People join from now on as they come.</p>
        <p v-else>This course has no way in yet, so nobody joins automatically. You can add one later, or add people by hand.</p>
      </template>
      <ProblemNote :of="problem" first />
      <div class="end">
        <Button severity="secondary" label="Not yet" @click="visible = false" />
        <Button
          :label="include !== 'none' && waiting > 0 ? `Start, and take in ${sayPeople(include === 'by-joining' && everybodyLooked ? waiting - past : waiting)}` : 'Start the course'"
          :loading="busy" :disabled="!outlook" @click="go" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.choice { display: flex; gap: 10px; align-items: baseline; }
.choice :deep(.p-inputnumber-input) { width: 84px; }
.where { margin: 0 0 0 30px; padding: 0 0 0 16px; display: grid; gap: 2px; }
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
