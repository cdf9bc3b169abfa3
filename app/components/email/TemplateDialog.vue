<script setup lang="ts">
import { onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { MessageContent } from '#core/message/content'
import type { EmailTemplateLine } from '#core/views/email'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'
import MiniEmail from './MiniEmail.vue'

/** An email to begin with; one’s own stand first. */
const visible = defineModel<boolean>('visible', { required: true })
defineProps<{ /** Something is written already, in the place of which it comes. */ replaces: boolean }>()
const emit = defineEmits<{ take: [content: MessageContent] }>()
const { problem, attempt } = useAttempt()
const templates = ref<EmailTemplateLine[] | null>(null)
onMounted(() => attempt(async () => templates.value = await api('GET /email-templates')))
function take({ content }: EmailTemplateLine) {
  emit('take', content)
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Begin with a template" :style="{ width: '1080px' }">
    <ProblemNote :of="problem" />
    <p v-if="replaces" class="note">What is written here now is replaced. You can undo that.</p>
    <ul v-if="templates" class="templates">
      <li v-for="one in templates" :key="one.key">
        <MiniEmail :content="one.content" :list-id="null" kind="course" />
        <h3>{{ one.name }}<span v-if="one.isOwn" class="second small"> yours</span></h3>
        <p class="second small">{{ one.reason }}</p>
        <Button label="Begin with this" size="small" severity="secondary" :aria-label="`Begin with ${one.name}`" @click="take(one)" />
      </li>
    </ul>
  </Dialog>
</template>

<style scoped>
.templates {
  list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(auto-fill, minmax(230px, 1fr)); gap: 20px 16px;
}
li { display: grid; grid-template-rows: auto auto 1fr auto; gap: 4px; justify-items: start; }
h3 { font: 650 15px/1.4 var(--body); }
li :deep(.mini) { width: 100%; height: 190px; }
</style>
