<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { emailsOf } from '#core/sequence/draft'
import type { CourseBeginning } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { newOutline } from '~/courses/beginnings'
import { saySome } from '#core/stats/say'
import BeginningCards from '~/components/BeginningCards.vue'
import SelectField from '~/components/SelectField.vue'
import OutlineForm from './OutlineForm.vue'

/** What a new course begins as: emails of one's own, or a finished course. */
const beginning = defineModel<CourseBeginning>({ required: true })
/** `brief`: there is more in the same dialog; what belongs to it stands in the slot. */
defineProps<{ brief?: boolean }>()

const { data: templates } = useFresh(() => api('GET /courses/templates'))
const OUTLINE = 'outline'
const chosen = ref<string | number | null>(OUTLINE)
const outline = ref(newOutline())
const options = computed(() => [
  { value: OUTLINE, name: 'Emails of my own', says: 'As many as you like, evenly spaced. You write the words.' },
  ...(templates.value ?? []).map(({ key, name, reason, draft }) => ({
    value: key, name, says: `${saySome(emailsOf(draft).length, 'email', 'emails')} to make your own. ${reason}`,
  })),
])
watch([chosen, outline], () => beginning.value = chosen.value === OUTLINE
  ? { kind: 'outline', outline: outline.value }
  : { kind: 'template', key: String(chosen.value) }, { immediate: true })
</script>

<template>
  <div v-if="brief" class="pair">
    <SelectField v-model="chosen" label="The course begins as" :options="options" />
    <slot />
  </div>
  <BeginningCards v-else v-model="chosen" legend="The course begins as" name="course-beginning" :options="options" />
  <OutlineForm v-if="chosen === OUTLINE" v-model="outline" first />
</template>

<style scoped>
.pair { display: grid; grid-template-columns: repeat(auto-fit, minmax(240px, 1fr)); gap: 14px; }
</style>
