<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import InputNumber from 'primevue/inputnumber'
import Textarea from 'primevue/textarea'
import { datesFor } from '#core/sequence/dates'
import { programOf } from '#core/sequence/draft'
import { emailsOfOutline, emptyOutline, MOST_OUTLINED, readOutline, type Outline } from '#core/sequence/outline'
import { ALWAYS } from '#core/time/hours'
import { sayDay, sayTime } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import TimeField from '~/components/TimeField.vue'

/** Several emails at once: so many, or a pasted outline, with the dates they would have for somebody who joins now. */
const outline = defineModel<Outline>({ required: true })
/** `first`: they begin a course; otherwise they follow what is there. */
const props = defineProps<{ first: boolean }>()

const EXAMPLE = 'Your sheet kit\nFold once, then trust it\nDay 3: Which book first?'
const frame = useFrame()
const text = ref('')
const count = ref(outline.value.lines.length)
watch([text, count], () => {
  const read = readOutline(text.value).slice(0, MOST_OUTLINED)
  outline.value = { ...outline.value, lines: read.length > 0 ? read : emptyOutline(count.value) }
})
const isWritten = computed(() => readOutline(text.value).length > 0)
const tooMany = computed(() => readOutline(text.value).length > MOST_OUTLINED)

/** Emails leave in the workspace’s hours: the dates here are those of the course itself. */
const { data: hours } = useFresh(() => api('GET /sending-hours'))
const ahead = computed(() => {
  let n = 0
  const steps = emailsOfOutline(outline.value, props.first, () => String(++n))
  const facts = { workspaceZone: frame.zone, personZone: null, hours: hours.value?.hours ?? ALWAYS, dateOf: () => null }
  const program = programOf({ listId: null, wayInTagIds: [], again: 'once', steps }, () => 0)
  return datesFor(program, frame.now, facts).map(({ plannedAt, zone }, at) => ({
    subject: outline.value.lines[at]!.subject,
    when: props.first && at === 0 ? 'at once' : plannedAt === null ? '' : `${sayDay(plannedAt, zone)}, ${sayTime(plannedAt, zone)}`,
  }))
})
</script>

<template>
  <div class="outline">
    <div class="line">
      <InputNumber
        :model-value="outline.lines.length" :min="1" :max="MOST_OUTLINED" :allow-empty="false" show-buttons :disabled="isWritten"
        aria-label="How many emails" :suffix="outline.lines.length === 1 ? ' email' : ' emails'" class="many"
        @update:model-value="many => count = many" />
      <span class="second">one every</span>
      <InputNumber
        :model-value="outline.everyDays" :min="1" :max="365" :allow-empty="false" show-buttons aria-label="Days between two emails"
        :suffix="outline.everyDays === 1 ? ' day' : ' days'" class="many"
        @update:model-value="everyDays => outline = { ...outline, everyDays }" />
      <span class="second">at</span>
      <TimeField :model-value="outline.time" label="Time of the emails" @update:model-value="time => outline = { ...outline, time }" />
    </div>
    <div class="two">
      <div class="field">
        <label for="outline-text">Subjects, one a line (you can paste an outline, or write them later)</label>
        <Textarea id="outline-text" v-model="text" rows="5" :placeholder="EXAMPLE" />
        <p v-if="tooMany" class="problem small" role="alert">At most {{ MOST_OUTLINED }} emails at once; the rest was left out.</p>
      </div>
      <div class="ahead" aria-live="polite">
        <p class="small second">{{ first ? 'For someone who joins now' : 'For someone who gets the last email now' }}</p>
        <ol>
          <li v-for="(email, n) in ahead" :key="n">
            <span class="second small">{{ email.when }}</span><span class="cut">{{ email.subject || `Email ${n + 1}` }}</span>
          </li>
        </ol>
      </div>
    </div>
  </div>
</template>

<style scoped>
.outline { display: grid; gap: 12px; }
.line { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.many { width: 128px; }
.many :deep(input) { width: 100%; }
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 18px; }
ol { display: grid; gap: 3px; margin: 4px 0 0; padding: 0; list-style: none; max-height: 190px; overflow: auto; }
li { display: grid; grid-template-columns: 118px minmax(0, 1fr); gap: 8px; align-items: baseline; }
@media (max-width: 640px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
