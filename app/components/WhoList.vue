<script setup lang="ts">
import { ref, watch } from 'vue'
import { sayMoment } from '#core/time/say'
import type { Who } from '#core/views/courseNumbers'
import { useAttempt } from '~/composables/useAttempt'
import { useNewest } from '~/composables/useNewest'
import SidePanel from '~/components/SidePanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The people behind a number, each with their time, some at a time. `of`: another one asks anew. */
const props = defineProps<{ of: string, words: string, zone: string, ask: (from: number) => Promise<{ people: Who[], more: boolean }> }>()
const emit = defineEmits<{ close: [] }>()
const people = ref<Who[]>([])
const more = ref(false)
const { busy, problem, attempt } = useAttempt()
const asked = useNewest()
const load = (from: number) => attempt(async () => {
  const isNewest = asked()
  const answer = await props.ask(from)
  if (!isNewest()) return
  people.value = from === 0 ? answer.people : [...people.value, ...answer.people]
  more.value = answer.more
})
watch(() => props.of, () => void load(0), { immediate: true })
</script>

<template>
  <SidePanel :label="words" @close="emit('close')">
    <template #head><h2>{{ words }}</h2></template>
    <slot />
    <ProblemNote :of="problem" />
    <p v-if="!people.length && !busy && !problem" class="second">Nobody.</p>
    <ul class="who">
      <li v-for="one in people" :key="one.personId">
        <NuxtLink :to="`/subscribers/${one.personId}`">{{ one.name }}</NuxtLink> <span
          class="second small">{{ sayMoment(one.at, zone) }}</span>
      </li>
    </ul>
    <p v-if="more"><button type="button" class="link-button" :disabled="busy" @click="load(people.length)">Show more</button></p>
  </SidePanel>
</template>

<style scoped>
.who { list-style: none; margin: 0; padding: 0; }
.who li { display: flex; justify-content: space-between; gap: 12px; padding: 6px 0; border-bottom: 1px solid var(--p-porch-line-light); }
</style>
