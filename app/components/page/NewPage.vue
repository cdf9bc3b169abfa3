<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Checkbox from 'primevue/checkbox'
import { PAGE_TEMPLATES } from '#core/page/templates/pages'
import type { CourseBeginning } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMaking } from '~/composables/useMaking'
import { useMarks } from '~/composables/useMarks'
import { newOutline } from '~/courses/beginnings'
import BeginningCards from '~/components/BeginningCards.vue'
import NameDialog from '~/components/NameDialog.vue'
import SelectField from '~/components/SelectField.vue'
import CourseBeginningForm from '~/components/course/CourseBeginningForm.vue'

/** Makes an opt-in page, and with it, where that is wanted, the course that starts from it; then goes to the page. */
const visible = defineModel<boolean>('visible', { required: true })
const { makePage, makePageWithCourse } = useMaking()
const { lists } = useMarks()
const { data: pages } = useFresh(() => api('GET /pages'))

const beginning = ref<string | number | null>('email-course')
const beginnings = computed(() => [
  ...PAGE_TEMPLATES.map(({ key, name, says }) => ({ value: key, name, says: `${says} Ready for your own words.` })),
  { value: null, name: 'An empty page', says: 'A headline, a text, a form.' },
  ...(pages.value ?? []).map(({ id, name }) => ({
    value: id, name: `A copy of ${name}`, says: 'A full copy with its own address.',
  })),
])
const withCourse = ref(false)
/** The first page of a workspace has nothing yet that it could lead to. */
watch(pages, rows => withCourse.value = rows?.length === 0, { once: true })
const course = ref<CourseBeginning>({ kind: 'outline', outline: newOutline() })
const listId = ref<number | null>(null)
watch(lists, rows => listId.value = rows[0]?.id ?? null, { once: true })
const listOptions = computed(() => [...lists.value.map(({ id, name }) => ({ value: id, name })), { value: null, name: 'a new list' }])

const make = (name: string) => withCourse.value
  ? makePageWithCourse(name, beginning.value, course.value, listId.value)
  : makePage(name, beginning.value)
</script>

<template>
  <NameDialog
    v-model:visible="visible" title="New opt-in page" label="Name (only you see it)" example="Sheet kit"
    :action="withCourse ? 'Make the page and the course' : 'Make the page'" width="680px" :make="make">
    <BeginningCards v-model="beginning" legend="Start from" name="beginning" :options="beginnings" />
    <label class="tick"><Checkbox v-model="withCourse" binary /> And an email course that starts when someone opts in</label>
    <template v-if="withCourse">
      <CourseBeginningForm v-model="course" brief>
        <SelectField v-if="lists.length" v-model="listId" label="Both belong to the list" :options="listOptions" />
      </CourseBeginningForm>
    </template>
  </NameDialog>
</template>

<style scoped>
.tick { display: inline-flex; align-items: center; gap: 8px; font-weight: 600; }
</style>
