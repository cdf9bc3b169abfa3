<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { MessageContent } from '#core/message/content'
import { useEarlierOf } from '~/composables/emailOwner'
import EmailDesk from '~/components/email/EmailDesk.vue'

/** The one email that a rule sends. */
const mail = defineModel<MessageContent>({ required: true })
defineProps<{ listId: number, tags: { id: number, name: string }[] }>()
const earlierOf = useEarlierOf()
const emit = defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :visible="true" modal class="over-all" header="The email that the rule sends" @update:visible="emit('close')">
    <EmailDesk v-model="mail" kind="rule" :list-id="listId" :tags="tags" :earlier-of="earlierOf('rule')" />
    <template #footer>
      <p class="second small">It is kept with the rule, and goes out once the rule is saved.</p>
      <Button label="Done" @click="emit('close')" />
    </template>
  </Dialog>
</template>
