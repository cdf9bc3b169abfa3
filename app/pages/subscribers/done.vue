<script setup lang="ts">
import { computed } from 'vue'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useUntil } from '~/composables/useUntil'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import TaskNote from '~/components/subscribers/TaskNote.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What was lately done to many at once: how far it is, what happened, and taking it back. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: tasks, problem, load } = useFresh(() => api('GET /tasks'))
useUntil(() => tasks.value?.some(task => task.endedAt === null) ?? false, load)
</script>

<template>
  <div>
    <PageHead
      title="Bulk changes" :back="{ to: '/subscribers', name: 'Subscribers' }">
      The last fifty. Changes to tags, lists and fields can be undone. Anything changed since then stays as it is.
    </PageHead>
    <ProblemNote v-if="problem" :of="problem" />
    <template v-else-if="tasks">
      <p v-if="tasks.length === 0" class="note second">No bulk changes yet. Filter the subscribers, then choose what to do above the
        table.</p>
      <div v-for="task in tasks" :key="task.id">
        <p class="second small when">{{ sayMoment(task.madeAt, zone) }}</p>
        <TaskNote :task="task" :closes="false" @begun="load" @changed="load" />
      </div>
    </template>
  </div>
</template>

<style scoped>
.when { padding-bottom: 3px; }
</style>
