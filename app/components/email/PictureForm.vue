<script setup lang="ts">
import { computed, ref, useId } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { readAddress } from '#core/message/webAddress'
import { useAttempt } from '~/composables/useAttempt'
import { usePictures } from '~/composables/usePictures'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A picture of an email: alone, beside text, or the still of a film. */
const props = defineProps<{ type: string, attrs: Record<string, unknown> }>()
const emit = defineEmits<{ change: [attrs: Record<string, unknown>] }>()
const { src, bring } = usePictures()
const { busy, problem, attempt } = useAttempt()
const input = ref<HTMLInputElement>()
const id = useId()
const set = (change: Record<string, unknown>) => emit('change', change)
const text = (key: string) => computed({
  get: () => String(props.attrs[key] ?? ''), set: (value: string | undefined) => set({ [key]: value ?? '' }),
})
const alt = text('alt')
const url = text('url')
const label = text('label')
const pictureId = computed(() => props.attrs.pictureId as number | null)
const isVideo = computed(() => props.type === 'video')
const read = computed(() => url.value === '' && !isVideo.value ? null : readAddress(url.value, isVideo.value ? 'web' : 'any'))
const SIZES = [25, 50, 75, 100].map(value => ({ value, name: value === 100 ? 'full width' : `${value} %` }))
const SIDES = [{ value: 'start', name: 'picture first' }, { value: 'end', name: 'text first' }]

async function take() {
  const file = input.value?.files?.[0]
  if (file) await attempt(async () => set({ pictureId: await bring(file) }))
  input.value!.value = ''
}
</script>

<template>
  <div class="fields">
    <div class="field">
      <img v-if="pictureId !== null" :src="src(pictureId)" :alt="alt" />
      <Button
        size="small" severity="secondary" :label="pictureId === null ? 'Add a picture' : 'Another picture'" icon="pi pi-image"
        :loading="busy" @click="input!.click()" />
      <input ref="input" type="file" accept="image/png,image/jpeg,image/webp,image/gif" aria-label="Picture" hidden @change="take" />
      <ProblemNote :of="problem" at="picture" whole />
    </div>
    <div v-if="type === 'video'" class="field">
      <label :for="`${id}-label`">Words below it</label><InputText :id="`${id}-label`" v-model="label" size="small" maxlength="120" />
    </div>
    <div class="field">
      <label :for="`${id}-alt`">Description, for people who do not see it</label>
      <InputText :id="`${id}-alt`" v-model="alt" size="small" maxlength="300" :disabled="attrs.isPlain === true" />
      <label class="tick small"><Checkbox
        :model-value="attrs.isPlain === true" binary @update:model-value="(on: boolean) => set({ isPlain: on })" />
        it only decorates</label>
    </div>
    <div class="field">
      <label :for="`${id}-url`">{{ type === 'video' ? 'Leads to the film at' : 'Leads to (may stay empty)' }}</label>
      <InputText :id="`${id}-url`" v-model="url" size="small" :invalid="read !== null && !read.ok" placeholder="https://" />
      <p v-if="read && !read.ok" class="problem">{{ read.problem }}</p>
    </div>
    <SelectField v-if="type === 'picture'" :model-value="(attrs.size as number)" label="Width" :options="SIZES" size="small"
                 @update:model-value="(size: unknown) => set({ size })" />
    <SelectButton
      v-if="type === 'beside'" :model-value="attrs.side" :options="SIDES" option-label="name" option-value="value" :allow-empty="false"
      size="small" aria-label="Which comes first on a wide screen" @update:model-value="(side: unknown) => set({ side })" />
  </div>
</template>

<style scoped>
img { max-width: 100%; max-height: 150px; justify-self: start; border-radius: 6px; border: 1px solid var(--p-porch-line); }
.tick { display: inline-flex; gap: 8px; align-items: center; }
</style>
