<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { picturePath, type PictureView } from '#core/page/picture'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** A picture, brought in as a file. */
const chosen = defineModel<number | null>({ required: true })
const props = defineProps<{ label: string, pictures: PictureView[], clearable?: boolean }>()
const emit = defineEmits<{ picture: [picture: PictureView] }>()
const frame = useFrame()
const { attempt, busy, problem } = useAttempt()
const input = ref<HTMLInputElement>()
const shown = computed(() => props.pictures.find(({ id }) => id === chosen.value))
const src = (picture: PictureView) => `${frame.mode === 'practice' ? '/practice' : ''}${picturePath(picture.id, picture.widths[0]!)}`

async function bring() {
  const file = input.value?.files?.[0]
  if (!file) return
  await attempt(async () => {
    const picture = await api('POST /pictures', { query: { name: file.name }, file })
    emit('picture', picture)
    chosen.value = picture.id
  })
  input.value!.value = ''
}
</script>

<template>
  <div class="field">
    <span class="label">{{ label }}</span>
    <img v-if="shown" :src="src(shown)" :alt="shown.name" />
    <div class="acts">
      <Button
        size="small" severity="secondary" :label="shown ? 'Another picture' : 'Add a picture'" icon="pi pi-image" :loading="busy"
        @click="input!.click()" />
      <Button v-if="shown && clearable" size="small" severity="secondary" label="None" @click="chosen = null" />
    </div>
    <input ref="input" type="file" accept="image/png,image/jpeg,image/webp,image/gif" :aria-label="label" hidden @change="bring" />
    <ProblemNote v-if="problem" :of="problem" at="picture" whole />
    <p v-else class="hint">PNG, JPEG, WebP or GIF, up to 10 MB.</p>
  </div>
</template>

<style scoped>
img { width: 100%; border-radius: 6px; border: 1px solid var(--p-porch-line); }
.acts { display: flex; gap: 6px; }
</style>
