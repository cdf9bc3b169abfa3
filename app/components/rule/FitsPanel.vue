<script setup lang="ts">
import { watch } from 'vue'
import Button from 'primevue/button'
import type { RuleView } from '#core/views/rules'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useTask } from '~/composables/useTask'
import { sayPeople } from '#core/stats/say'
import TaskNote from '~/components/subscribers/TaskNote.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** For whom the rule's moment has come already, and letting it act on them. */
const props = defineProps<{ id: number, fits: RuleView['fits'], changed: boolean }>()
const emit = defineEmits<{ begun: [] }>()
const { busy, problem, attempt } = useAttempt()
const { task, follow } = useTask()
watch(() => task.value?.endedAt, () => emit('begun'))
const run = () =>
  attempt(async () => follow(await api('POST /rules/:id/run', { at: { id: props.id }, body: { people: props.fits.people } })))
</script>

<template>
  <section class="panel" aria-labelledby="fits">
    <h2 id="fits">People who match now</h2>
    <div class="panel-body fields">
      <p class="big">{{ sayPeople(fits.people) }}</p>
      <p class="small second"><template v-if="fits.standing">People {{ fits.says }}.</template><template v-else>Its date leaves no trace,
        so this counts {{ fits.says ? `people ${fits.says}` : 'everybody' }}.</template> The rule acts on what happens from now on. You
        can let it act on these people, too.</p>
      <Button
        :label="`Let it act on ${sayPeople(fits.people)}`" severity="secondary" size="small" :disabled="fits.people === 0 || changed"
        :loading="busy" @click="run" />
      <p v-if="changed" class="small second">Save the changes first.</p>
      <ProblemNote :of="problem" line class="small" />
      <TaskNote v-if="task" :task="task" :closes="false" @changed="follow" />
    </div>
  </section>
</template>

<style scoped>
.big { font: 650 27px/1.2 var(--heading); }
</style>
