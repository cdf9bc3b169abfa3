<script setup lang="ts">
import { computed, onMounted, ref, useId } from 'vue'
import Button from 'primevue/button'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { FORMS, formOf, namePlaceholder, placeholder, type Form, type PlaceholderAttrs } from '#core/message/placeholders'
import { sayNumber, saySome } from '#core/stats/say'
import { api } from '~/composables/useApi'

/** Asks how a fact is said, and what stands in its place where it is not known; and tells for how many that is. */
const props = defineProps<{ attrs: PlaceholderAttrs, listId: number | null, action: string }>()
const emit = defineEmits<{ done: [attrs: PlaceholderAttrs], close: [] }>()
const id = useId()
const kind = computed(() => placeholder(props.attrs.field))
const fallback = ref(props.attrs.fallback)
const days = ref(props.attrs.days ?? 0)
const as = ref<Form | null>(formOf(props.attrs))
const isDate = computed(() => as.value !== null && ['day', 'weekday', 'date'].includes(as.value))
const forms = computed(() => {
  const options = kind.value.forms.filter(form => ['day', 'weekday', 'date'].includes(form) === isDate.value)
    .map(form => ({ value: form as Form | null, name: `${isDate.value ? 'as “' : ''}${FORMS[form]}${isDate.value ? '”' : ''}` }))
  return isDate.value ? options : [{ value: null, name: 'As it is' }, ...options]
})
const ready = computed(() => !kind.value.mayLack || fallback.value.trim() !== '')
const lacking = ref<{ people: number, of: number } | null>(null)
onMounted(async () => {
  if (!kind.value.mayLack || kind.value.link) return
  const { field, fieldId = null } = props.attrs
  lacking.value = await api('POST /emails/lacking', { body: { field, fieldId, listId: props.listId } }).catch(() => null)
})
function done() {
  if (!ready.value) return
  emit('done', { ...props.attrs, fallback: kind.value.mayLack ? fallback.value.trim() : '', as: as.value, days: days.value || null })
}
</script>

<template>
  <form class="placeholder" @submit.prevent="done" @keydown.esc.stop="emit('close')">
    <strong>{{ namePlaceholder({ ...attrs, days: null }) }}</strong>
    <label v-if="kind.takesDays">plus <InputNumber
      v-model="days" :min="-400" :max="400" size="small" suffix=" days" aria-label="Days added" /></label>
    <Select
      v-if="kind.forms.length > 0" v-model="as" :options="forms" option-label="name" option-value="value" size="small"
      placeholder="As it is" aria-label="How it is said" />
    <template v-if="kind.mayLack">
      <label v-if="kind.link" :for="id">that says:</label>
      <label v-else :for="id">if it is not known<template v-if="lacking"> ({{ sayNumber(lacking.people) }} of
        {{ saySome(lacking.of, 'reader', 'readers') }})</template>:</label>
      <InputText :id="id" v-model="fallback" size="small" maxlength="80" autofocus />
    </template>
    <Button type="submit" size="small" severity="secondary" :label="action" :disabled="!ready" />
  </form>
</template>

<style scoped>
.placeholder {
  display: flex; align-items: center; gap: 8px; padding: 6px 8px; background: var(--p-porch-rail);
  border-top: 1px solid var(--p-porch-line-light); font-size: 13px; flex-wrap: wrap;
}
.placeholder input { width: 130px; }
.placeholder :deep(.p-inputnumber-input) { width: 84px; }
label { display: inline-flex; gap: 6px; align-items: center; }
</style>
