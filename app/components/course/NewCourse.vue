<script setup lang="ts">
import { ref } from 'vue'
import type { CourseBeginning } from '#core/views/course'
import { useMaking } from '~/composables/useMaking'
import { newOutline } from '~/courses/beginnings'
import NameDialog from '~/components/NameDialog.vue'
import CourseBeginningForm from './CourseBeginningForm.vue'

/** Makes a course, and goes there. */
const visible = defineModel<boolean>('visible', { required: true })
const { makeCourse } = useMaking()
const beginning = ref<CourseBeginning>({ kind: 'outline', outline: newOutline() })
</script>

<template>
  <NameDialog
    v-model:visible="visible" title="New course" label="Name of the email course" example="Five evenings, one book"
    action="Make the course" width="680px" :make="name => makeCourse(name, beginning)">
    <CourseBeginningForm v-model="beginning" />
  </NameDialog>
</template>
