<script setup lang="ts">
import ToggleSwitch from 'primevue/toggleswitch'
import type { BroadcastView } from '#core/views/broadcast'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'

/** Whether anybody can read it, and where. */
const props = defineProps<{ id: number, view: BroadcastView }>()
const emit = defineEmits<{ changed: [view: BroadcastView] }>()
const { busy, problem, attempt } = useAttempt()
const share = (shared: boolean) => attempt(async () => {
  emit('changed', await api('PUT /broadcasts/:id/shared', { at: { id: props.id }, body: { shared } }))
})
</script>

<template>
  <section class="panel panel-body" aria-labelledby="share">
    <div class="top">
      <h2 id="share">On your public page</h2>
      <ToggleSwitch :model-value="view.shared !== null" aria-labelledby="share" :disabled="busy" @update:model-value="share" />
    </div>
    <p v-if="view.shared" class="small">Anybody can read it at
      <a :href="view.shared.url" target="_blank" rel="noopener">{{ view.shared.url }}</a>.
      All that you share stand at <a :href="view.shared.pageUrl" target="_blank" rel="noopener">{{ view.shared.pageUrl }}</a>, with a
      <a :href="view.shared.feedUrl" target="_blank" rel="noopener">feed</a>.</p>
    <p v-else class="small second">Only the people it was sent to can read it. On the page it stands without names, without what is only for
      some, and with links that are not counted.</p>
    <ProblemNote v-if="problem" :of="problem" />
  </section>
</template>

<style scoped>
.top { display: flex; justify-content: space-between; align-items: center; gap: 12px; }
h2 { font: 650 16px/1.3 var(--heading); }
p { overflow-wrap: anywhere; padding-top: 4px; }
</style>
