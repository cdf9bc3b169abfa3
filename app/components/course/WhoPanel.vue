<script setup lang="ts">
import { ref, watch } from 'vue'
import type { WhoAsked } from '#core/views/courseNumbers'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import SidePanel from '~/components/SidePanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The people behind a number of a course. */
const props = defineProps<{ courseId: number, asked: WhoAsked, words: string, zone: string }>()
const emit = defineEmits<{ close: [] }>()
interface Who { personId: number, name: string, at: number }
const people = ref<Who[]>([])
const more = ref(false)
const { busy, problem, attempt } = useAttempt()
const load = (from: number) => attempt(async () => {
  const answer = await api('POST /courses/:id/who', { at: { id: props.courseId }, body: { asked: props.asked, from } })
  people.value = from === 0 ? answer.people : [...people.value, ...answer.people]
  more.value = answer.more
})
watch(() => JSON.stringify(props.asked), () => void load(0), { immediate: true })
</script>

<template>
  <SidePanel :label="words" @close="emit('close')">
    <template #head><h2>{{ words }}</h2></template>
    <ProblemNote :of="problem" />
    <p v-if="!people.length && !busy && !problem" class="second">Nobody.</p>
    <ul class="who">
      <li v-for="one in people" :key="one.personId">
        <NuxtLink :to="`/subscribers/${one.personId}`">{{ one.name }}</NuxtLink> <span class="second small">{{ sayMoment(one.at, zone) }}</span>
      </li>
    </ul>
    <p v-if="more"><button type="button" class="link-button" :disabled="busy" @click="load(people.length)">Show more</button></p>
  </SidePanel>
</template>

<style scoped>
.who { list-style: none; margin: 0; padding: 0; }
.who li { display: flex; justify-content: space-between; gap: 12px; padding: 6px 0; border-bottom: 1px solid var(--p-porch-line-light); }
</style>
