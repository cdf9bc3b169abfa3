<script setup lang="ts">
import { ref, useId } from 'vue'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import type { EmailKind } from '#core/sending/kinds'
import type { MessageContent } from '#core/message/content'
import EmailReader from '~/components/EmailReader.vue'
import { LineEditor, RichEditor } from '~/editor/lazy'

/** An email that the page sends by itself, with its own button. */
const mail = defineModel<MessageContent>({ required: true })
defineProps<{ kind: EmailKind, listId: number | null, problem?: string }>()
const side = ref<'write' | 'read'>('write')
const id = useId()
</script>

<template>
  <div class="fields">
    <SelectButton
      v-model="side" :options="[{ name: 'Write', value: 'write' }, { name: 'Read', value: 'read' }]" option-label="name"
      option-value="value" :allow-empty="false" size="small" aria-label="Write or read the email" />
    <template v-if="side === 'write'">
      <div class="fields two">
        <div class="field"><span class="label">Subject</span><LineEditor v-model="mail.subject" label="Subject" /></div>
        <div class="field">
          <span class="label">Preview text, shown after the subject</span>
          <LineEditor v-model="mail.preview" label="Preview text" />
        </div>
      </div>
      <div class="field">
        <span class="label">Body</span>
        <RichEditor v-model="mail.body" label="Body of the email" for-email="own" />
        <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
        <p v-else class="hint">Click the button in the email to change its text.</p>
      </div>
      <div class="field">
        <label :for="`${id}-title`">Working title; readers never see it</label>
        <InputText :id="`${id}-title`" v-model="mail.workingTitle" maxlength="120" size="small" />
      </div>
    </template>
    <EmailReader v-else :content="mail" :list-id="listId" :kind="kind" />
  </div>
</template>
