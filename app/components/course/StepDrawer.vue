<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Drawer from 'primevue/drawer'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import Checkbox from 'primevue/checkbox'
import type { RichText } from '#core/message/content'
import type { StepDate } from '#core/sequence/dates'
import type { DraftStep } from '#core/sequence/draft'
import { sayMoment, sayZone } from '#core/time/say'
import { api, ApiProblem } from '~/composables/useApi'
import LineEditor from '~/components/LineEditor.vue'
import RichEditor from '~/components/RichEditor.vue'
import WhenForm from './WhenForm.vue'

/** One email of a course: what it says and when it goes. */
const props = defineProps<{ number: number, count: number, date: StepDate | undefined, listId: number | null, tags: { id: number, name: string }[], problems: string[] }>()
const step = defineModel<DraftStep>({ required: true })
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ move: [by: -1 | 1], remove: [] }>()

const side = ref<'write' | 'read'>('write')
const readers = [{ name: 'Ines', value: 'Ines' }, { name: 'no name known', value: '' }]
const reader = ref('Ines')
const preview = ref<{ subject: string, html: string, text: string } | null>(null)
const problem = ref<string | null>(null)

async function read() {
  try {
    preview.value = await api('courses/preview', { method: 'POST', body: { content: step.value.content, listId: props.listId, firstName: reader.value } })
    problem.value = null
  }
  catch (error) {
    preview.value = null
    problem.value = error instanceof ApiProblem ? error.message : String(error)
  }
}
watch([side, reader], () => side.value === 'read' && void read())
watch(() => step.value.id, () => side.value = 'write')

const watches = computed({
  get: () => step.value.ifNotClicked !== null,
  set: (on: boolean) => {
    step.value.ifNotClicked = on && props.tags[0] ? { days: 3, tagId: props.tags[0].id } : null
  },
})
const hasButton = computed(() => step.value.content.body.content.some(block => block.type === 'button'))
const PAST = [{ value: 'at-once', name: 'send it at once' }, { value: 'skip', name: 'pass it over' }]
const ZONES = [{ value: 'workspace', name: 'the workspace’s' }, { value: 'subscriber', name: 'the reader’s own, where known' }]
</script>

<template>
  <Drawer v-model:visible="visible" position="right" :modal="false" :dismissable="false" :style="{ width: '600px' }" :pt="{ mask: { style: 'pointer-events:none' } }">
    <template #header>
      <div class="head">
        <h2>Email {{ number }}</h2>
        <SelectButton v-model="side" :options="[{ name: 'Write', value: 'write' }, { name: 'Read', value: 'read' }]" option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Write or read" />
      </div>
    </template>

    <div v-if="side === 'write'" class="fields">
      <p v-for="text in problems" :key="text" class="note brick" role="alert">{{ text }}</p>
      <div class="field">
        <span class="label">When it goes</span>
        <WhenForm v-model="step.when" :is-first="number === 1" />
        <p class="hint" aria-live="polite"><template v-if="date?.plannedAt">For the sample joiner: {{ sayMoment(date.plannedAt, date.zone) }}, {{ sayZone(date.zone) }}.</template><template v-else>For the sample joiner this moment is past, and it is passed over.</template></p>
      </div>
      <div class="fields two">
        <div class="field"><label for="step-zone">Whose clock decides</label><Select v-model="step.zone" label-id="step-zone" input-id="step-zone" :options="ZONES" option-label="name" option-value="value" /></div>
        <div class="field"><label for="step-past">If that moment is already past</label><Select v-model="step.ifPast" label-id="step-past" input-id="step-past" :options="PAST" option-label="name" option-value="value" /></div>
      </div>
      <div class="field"><label for="working-title">Working title; readers never see it</label><InputText id="working-title" v-model="step.content.workingTitle" maxlength="120" /></div>
      <div class="field"><span class="label">Subject</span><LineEditor v-model="step.content.subject" label="Subject" /></div>
      <div class="field"><span class="label">Preview text, shown after the subject in most inboxes</span><LineEditor v-model="step.content.preview" label="Preview text" /></div>
      <div class="field"><span class="label">Body</span><RichEditor :key="step.id" v-model="(step.content.body as RichText)" label="Body of the email" for-email :tags="tags" /></div>
      <div v-if="hasButton || step.ifNotClicked" class="watch">
        <Checkbox v-model="watches" binary input-id="watches" :disabled="tags.length === 0" />
        <label for="watches">If nothing in it is clicked</label>
        <template v-if="step.ifNotClicked">
          within <InputNumber v-model="step.ifNotClicked.days" :min="1" :max="365" :allow-empty="false" suffix=" days" aria-label="Days of 24 hours" size="small" /> give the tag
          <Select v-model="step.ifNotClicked.tagId" :options="tags" option-label="name" option-value="id" aria-label="Tag" size="small" filter />
        </template>
        <span v-else class="second">give a tag after some days</span>
      </div>
      <div class="foot">
        <Button severity="secondary" size="small" icon="pi pi-arrow-up" label="Earlier" :disabled="number === 1" @click="emit('move', -1)" />
        <Button severity="secondary" size="small" icon="pi pi-arrow-down" label="Later" :disabled="number === count" @click="emit('move', 1)" />
        <Button severity="secondary" size="small" icon="pi pi-trash" label="Remove this email" class="last" @click="emit('remove')" />
      </div>
    </div>

    <div v-else class="fields">
      <div class="field"><span class="label">As read by</span><SelectButton v-model="reader" :options="readers" option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Reader" /></div>
      <p v-if="problem" class="note brick" role="alert">{{ problem }}</p>
      <template v-if="preview">
        <p><strong>{{ preview.subject || 'No subject yet' }}</strong></p>
        <iframe :srcdoc="preview.html" sandbox="" title="The email as it will look" />
        <details><summary>The text part</summary><pre class="mono">{{ preview.text }}</pre></details>
      </template>
    </div>
  </Drawer>
</template>

<style scoped>
.head { display: flex; align-items: center; justify-content: space-between; gap: 16px; flex: 1; padding-right: 12px; }
.watch { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.watch :deep(.p-inputnumber-input) { width: 84px; }
.foot { display: flex; gap: 8px; padding-top: 14px; border-top: 1px solid var(--p-porch-line-light); }
.last { margin-left: auto; }
iframe { width: 100%; height: 520px; border: 1px solid var(--p-porch-line); border-radius: 8px; background: #fff; }
pre { white-space: pre-wrap; overflow-wrap: anywhere; margin: 8px 0 0; }
summary { cursor: pointer; min-height: 24px; }
</style>
