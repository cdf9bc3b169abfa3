<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import { nameOfMessage, plainLine, type MessageContent } from '#core/message/content'
import type { EmailKind } from '#core/sending/kinds'
import { useEarlierOf } from '~/composables/emailOwner'
import { whenNeeded } from '~/components/whenNeeded'
import MiniEmail from './MiniEmail.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const EmailDesk = whenNeeded(() => import('./EmailDesk.vue'))

/** An email that belongs to something, in small; it is written over the whole screen. */
const mail = defineModel<MessageContent>({ required: true })
defineProps<{
  kind: EmailKind, /** It has a button of its own. */ own?: boolean, listId: number | null, tags?: { id: number, name: string }[]
  problem?: string
}>()
const open = ref(false)
const earlierOf = useEarlierOf()
</script>

<template>
  <div class="card">
    <p class="subject"><strong>{{ plainLine(mail.subject).trim() || 'No subject yet' }}</strong>
      <span class="second small">{{ plainLine(mail.preview) }}</span></p>
    <MiniEmail :content="mail" :list-id="listId" :kind="kind" />
    <ProblemNote :of="problem" line />
    <Button label="Write the email" icon="pi pi-pencil" size="small" class="start" @click="open = true" />
    <Dialog v-model:visible="open" modal class="over-all" :header="nameOfMessage(mail) || 'The email'">
      <EmailDesk v-model="mail" :kind="kind" :own="own" :list-id="listId" :tags="tags ?? []" :earlier-of="earlierOf(kind)" />
      <template #footer><Button label="Done" @click="open = false" /></template>
    </Dialog>
  </div>
</template>

<style scoped>
.card { display: grid; gap: 8px; max-width: 520px; }
.subject { display: grid; }
.start { justify-self: start; }
</style>
