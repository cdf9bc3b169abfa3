<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import InputText from 'primevue/inputtext'
import SelectField from '~/components/SelectField.vue'
import Textarea from 'primevue/textarea'
import type { ArticlesNode, ButtonNode, ChoiceNode, CountdownNode, FileNode, OfferNode } from '#core/message/content'
import { api } from '~/composables/useApi'
import ButtonForm from '~/components/ButtonForm.vue'
import type { OfferToShow } from '~/composables/useEmailParts'
import ArticlesForm from './ArticlesForm.vue'
import ChoiceForm from './ChoiceForm.vue'
import CountdownForm from './CountdownForm.vue'
import FileForm from './FileForm.vue'
import OfferForm from './OfferForm.vue'
import PictureForm from './PictureForm.vue'
import SocialForm from './SocialForm.vue'

/** What a block that is chosen as a whole says and does. */
const props = defineProps<{
  type: string, attrs: Record<string, unknown>, tags: { id: number, name: string }[]
  /** Which step of which course it stands in. */
  of: { courseId: number, stepId: string } | null
  offers: readonly OfferToShow[]
}>()
const emit = defineEmits<{ change: [attrs: Record<string, unknown>], remove: [] }>()
const library = ref<{ id: number, name: string, url: string }[]>([])
onMounted(async () => {
  if (props.type === 'button') library.value = await api('GET /links').catch(() => [])
})
const label = computed({ get: () => String(props.attrs.label ?? ''), set: value => emit('change', { label: value ?? '' }) })
const source = computed({ get: () => String(props.attrs.source ?? ''), set: value => emit('change', { source: value ?? '' }) })
const HEIGHTS = [
  { value: 8, name: 'a little' }, { value: 16, name: 'half a line' }, { value: 32, name: 'a line' }, { value: 64, name: 'two lines' },
]
</script>

<template>
  <ButtonForm
    v-if="type === 'button'" :attrs="(attrs as unknown as ButtonNode['attrs'])" :tags="tags" :links="library"
    @change="next => emit('change', { ...next })" @remove="emit('remove')" />
  <div v-else-if="type === 'ownButton'" class="field">
    <label for="own-label">The button says</label>
    <InputText id="own-label" v-model="label" size="small" maxlength="80" />
    <p class="hint">It leads to what this email is for. You need not give an address.</p>
  </div>
  <PictureForm
    v-else-if="type === 'picture' || type === 'beside' || type === 'video'" :type="type" :attrs="attrs"
    @change="next => emit('change', next)" />
  <ChoiceForm
    v-else-if="type === 'choice'" :attrs="(attrs as unknown as ChoiceNode['attrs'])" :tags="tags" :of="of"
    @change="next => emit('change', { ...next })" />
  <OfferForm
    v-else-if="type === 'offer'" :attrs="(attrs as unknown as OfferNode['attrs'])" :offers="offers"
    @change="next => emit('change', { ...next })" />
  <CountdownForm
    v-else-if="type === 'countdown'" :attrs="(attrs as unknown as CountdownNode['attrs'])" :offers="offers"
    @change="next => emit('change', { ...next })" />
  <p v-else-if="type === 'part'" class="fields">
    <span class="second small">It is written once and stands in several emails.</span>
    <NuxtLink :to="`/email-parts?part=${attrs.partId}`">Change this part</NuxtLink>
  </p>
  <FileForm
    v-else-if="type === 'file'" :attrs="(attrs as unknown as FileNode['attrs'])" @change="next => emit('change', { ...next })" />
  <ArticlesForm
    v-else-if="type === 'articles'" :attrs="(attrs as unknown as ArticlesNode['attrs'])" @change="next => emit('change', { ...next })" />
  <SocialForm v-else-if="type === 'social'" :attrs="attrs" @change="next => emit('change', next)" />
  <SelectField
    v-else-if="type === 'space'" :model-value="(attrs.height as number)" label="How much" :options="HEIGHTS" size="small"
    @update:model-value="(height: unknown) => emit('change', { height })" />
  <div v-else-if="type === 'html'" class="field">
    <label for="html-source">Your HTML</label>
    <Textarea id="html-source" v-model="source" rows="10" class="mono small" maxlength="100000" spellcheck="false" />
    <p class="hint">Scripts, forms and whatever loads from elsewhere are taken out. Its links are not counted.</p>
  </div>
</template>
