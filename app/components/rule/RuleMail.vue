<script setup lang="ts">
import { ref } from 'vue'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import type { MessageContent, RichText } from '#core/message/content'
import EmailReader from '~/components/EmailReader.vue'
import { LineEditor, RichEditor } from '~/editor/lazy'
import SidePanel from '~/components/SidePanel.vue'

/** The one email that a rule sends. */
const mail = defineModel<MessageContent>({ required: true })
defineProps<{ listId: number, tags: { id: number, name: string }[] }>()
const emit = defineEmits<{ close: [] }>()
const side = ref<'write' | 'read'>('write')
const set = (change: Partial<MessageContent>) => mail.value = { ...mail.value, ...change }
</script>

<template>
  <SidePanel label="The email that the rule sends" @close="emit('close')">
    <template #head>
      <h2>One email</h2>
      <SelectButton
        v-model="side" :options="[{ name: 'Write', value: 'write' }, { name: 'Read', value: 'read' }]" option-label="name"
        option-value="value" :allow-empty="false" size="small" aria-label="Write or read" />
    </template>
    <div v-if="side === 'write'" class="fields">
      <div class="field">
        <label for="rule-mail-title">Working title; readers never see it</label>
        <InputText
          id="rule-mail-title" :model-value="mail.workingTitle" maxlength="120"
          @update:model-value="workingTitle => set({ workingTitle: workingTitle ?? '' })" />
      </div>
      <div class="field">
        <span class="label">Subject</span>
        <LineEditor :model-value="mail.subject" label="Subject" @update:model-value="subject => set({ subject })" />
      </div>
      <div class="field">
        <span class="label">Preview text, shown after the subject in most inboxes</span>
        <LineEditor :model-value="mail.preview" label="Preview text" @update:model-value="preview => set({ preview })" />
      </div>
      <div class="field">
        <span class="label">Body</span>
        <RichEditor
          :model-value="(mail.body as RichText)" label="Body of the email" for-email="course" :tags="tags"
          @update:model-value="body => set({ body })" />
      </div>
      <p class="second small">It is kept with the rule, and goes out once the rule is saved.</p>
    </div>
    <EmailReader v-else :content="mail" :list-id="listId" kind="rule" />
  </SidePanel>
</template>
