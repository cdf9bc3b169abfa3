<script setup lang="ts">
import { computed, ref } from 'vue'
import SelectButton from 'primevue/selectbutton'
import type { MessageContent } from '#core/message/content'
import { useVersions } from '~/composables/useVersions'
import EmailViews, { type View } from '~/components/email/EmailViews.vue'
import PreviewAs from '~/components/email/PreviewAs.vue'

/** The email as it was sent; as anybody got it stands on their own page. */
const props = defineProps<{ id: number, content: MessageContent, listId: number | null }>()
const SIDES: { value: View, name: string }[] = [
  { value: 'desktop', name: 'Computer' }, { value: 'phone', name: 'Phone' }, { value: 'dark', name: 'Dark' },
  { value: 'plain', name: 'No pictures' }, { value: 'text', name: 'Text' },
]
const side = ref<View>('desktop')
const about = () => ({ kind: 'broadcast' as const, listId: props.listId, ownerId: props.id })
const email = computed(() => ({ ...about(), content: props.content }))
const { versions, problem, reader, at, step } = useVersions(computed(() => props.content), () => ({ ...about(), stepId: null }))
</script>

<template>
  <div class="fields">
    <SelectButton
      v-model="side" :options="SIDES" option-label="name" option-value="value" :allow-empty="false" size="small"
      aria-label="How to look at it" />
    <div class="seen">
      <EmailViews :email="email" :reader="reader" :views="[side]" />
      <PreviewAs v-model:reader="reader" :email="email" :versions="versions" :problem="problem" :at="at" @step="step" />
    </div>
  </div>
</template>

<style scoped>
.seen { display: grid; grid-template-columns: minmax(0, 1fr) 300px; gap: 20px; align-items: start; }
@media (max-width: 1080px) { .seen { grid-template-columns: minmax(0, 1fr); } }
</style>
