<script setup lang="ts">
import { nextTick, ref } from 'vue'
import InputText from 'primevue/inputtext'
import { NOTHING_FOLLOWS } from '#core/rules/shortForms'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useRuleParts } from '~/composables/useParts'

/** A tag made in place, where it comes to mind. */
const props = defineProps<{ label: string }>()
const emit = defineEmits<{ made: [id: number] }>()
const parts = useRuleParts()
const making = ref(false)
const name = ref('')
const field = ref<HTMLElement>()
const { busy, problem, attempt } = useAttempt()

async function begin() {
  making.value = true
  await nextTick()
  field.value?.querySelector('input')?.focus()
}
async function make() {
  if (busy.value || name.value.trim() === '') return
  await attempt(async () => {
    const { id } = await api('POST /tags', { body: { name: name.value, note: '', follows: NOTHING_FOLLOWS } })
    parts.value.tags.push({ id, name: name.value.trim(), blanks: false })
    emit('made', id)
    making.value = false
    name.value = ''
  })
}
</script>

<template>
  <button v-if="!making" type="button" class="link-button small" :aria-label="`${props.label}: a new tag`" @click="begin">a new one</button>
  <span v-else ref="field" class="new">
    <InputText
      v-model="name" size="small" maxlength="80" placeholder="name of the new tag" :aria-label="`${props.label}: name of the new tag`"
      @keydown.enter.prevent="make" @keydown.esc.stop="making = false" />
    <button type="button" class="link-button small" :disabled="busy" @click="make">make it</button>
    <span v-if="problem" class="problem small" role="alert">{{ problem.of('name') ?? problem.message }}</span>
  </span>
</template>

<style scoped>
.new { display: inline-flex; align-items: center; gap: 6px; }
</style>
