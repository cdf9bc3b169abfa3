<script setup lang="ts">
import Button from 'primevue/button'
import { useToast } from 'primevue/usetoast'
import type { Astray } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'

/** Ways into a course that do not lead onto its list, each with what mends it. */
/** `flush` keeps what is being typed first, where something is. */
const props = defineProps<{ astray: Astray[], flush?: () => Promise<boolean> }>()
const emit = defineEmits<{ mended: [] }>()
const toast = useToast()
const { busy, problem, attempt } = useAttempt()

const BY: Record<Astray['by']['kind'], (name: string) => string> = {
  'page': name => `the page “${name}”`, 'offer': name => `buying “${name}”`,
  'waiting-list': name => `the waiting list of “${name}”`,
}
const TO: Record<Astray['by']['kind'], (id: number) => string> = {
  'page': id => `/pages/${id}?part=gives`, 'offer': id => `/offers/${id}?part=gives`, 'waiting-list': id => `/offers/${id}`,
}

const mend = ({ course, list, by }: Astray, who: 'course' | 'way') => attempt(async () => {
  if (props.flush && !await props.flush()) return
  const { published } = await api('POST /courses/:id/onto-list', {
    at: { id: course.id }, body: who === 'course' ? { kind: 'course', id: course.id } : { kind: by.kind, id: by.id } })
  toast.add({
    severity: 'success', summary: `They join ${list.name} now`,
    detail: published ? undefined : 'It has other changes, too. Publish them for this to take effect.', life: 6000,
  })
  emit('mended')
})
</script>

<template>
  <div v-for="one in astray" :key="`${one.by.kind}${one.by.id}-${one.course.id}`" class="note brick astray" role="alert">
    <p>
      <strong>People from {{ BY[one.by.kind](one.by.name) }} would get no emails from “{{ one.course.name }}”.</strong>
      The course belongs to the list <em>{{ one.list.name }}</em>, which they do not join.
      The words they agree to must cover that list.
    </p>
    <p class="tools">
      <Button
        :label="one.by.kind === 'page' ? 'Let the page add them to the list' : 'Let it add them to the list'" size="small" :loading="busy"
        @click="mend(one, 'way')" />
      <Button
        label="Let the course add everyone who joins" size="small" severity="secondary" :loading="busy" @click="mend(one, 'course')" />
      <NuxtLink :to="TO[one.by.kind](one.by.id)" class="small">See what it gives</NuxtLink>
    </p>
    <p v-if="problem" class="problem">{{ problem.message }}</p>
  </div>
</template>

<style scoped>
.astray { display: grid; gap: 8px; margin-bottom: 12px; }
.tools { display: flex; gap: 10px; align-items: center; flex-wrap: wrap; }
</style>
