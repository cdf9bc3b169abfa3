<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import PersonField, { type PickedPerson } from '~/components/PersonField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Lets one person in, by hand. */
const props = defineProps<{ courseId: number }>()
const emit = defineEmits<{ done: [] }>()
const person = ref<PickedPerson | null>(null)
const said = ref<string | null>(null)
const { busy, problem, attempt } = useAttempt()
const put = () => attempt(async () => {
  const { outcome } = await api('POST /courses/:id/people', { at: { id: props.courseId }, body: { personId: person.value!.id } })
  said.value = outcome === 'enrolled' ? `${person.value!.name} has joined.` : `${person.value!.name} did not join; their history says why.`
  emit('done')
})
</script>

<template>
  <form class="field" @submit.prevent="put">
    <label for="put-in">Add by hand</label>
    <div class="line">
      <PersonField v-model="person" input-id="put-in" />
      <Button type="submit" label="Add" severity="secondary" size="small" :disabled="!person" :loading="busy" />
    </div>
    <p v-if="said" class="small" role="status">{{ said }}</p>
    <ProblemNote :of="problem" line class="small" />
  </form>
</template>

<style scoped>
.line { display: flex; gap: 8px; }
.line > :first-child { flex: 1; }
</style>
