<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import { saySome } from '#core/stats/say'
import type { SenderLine } from '#core/views/senders'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { useFrame } from '~/stores/frame'
import { useUndo } from '~/stores/undo'
import DomainPanel from '~/components/sender/DomainPanel.vue'
import SenderCard from '~/components/sender/SenderCard.vue'
import SenderDialog from '~/components/sender/SenderDialog.vue'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Who emails are from, and what their domains say about it. */
const frame = useFrame()
const undo = useUndo()
const { data: view, problem, load } = useFresh(() => api('GET /senders'))
const { lists: allLists, tags: allTags } = useMarks()
const named = (all: readonly { id: number, name: string }[]) => new Map(all.map(({ id, name }) => [id, name]))
const lists = computed(() => named(allLists.value))
const tags = computed(() => named(allTags.value))

const open = ref(false)
const editing = ref<SenderLine | null>(null)
function edit(sender: SenderLine | null) {
  editing.value = sender
  open.value = true
}
const failed = ref<string | null>(null)
/** Emails that name it go from the one that is used for everything else. */
async function remove({ id, name, listIds, tagIds }: SenderLine) {
  failed.value = null
  try {
    await api('DELETE /senders/:id', { at: { id } })
  }
  catch (error) {
    failed.value = (error as Error).message
    return
  }
  await changed()
  undo.did({ said: `“${name}” is removed.`, undo: async () => {
    await api('POST /senders/:id/restore', { at: { id }, body: { listIds, tagIds } })
    await changed()
  } })
}
async function makeDefault({ id, name }: SenderLine) {
  const before = view.value!.senders.find(({ isDefault }) => isDefault)
  await api('PUT /senders/:id/default', { at: { id } })
  await changed()
  undo.did({ said: `“${name}” is used for everything else.`, undo: async () => {
    if (before) await api('PUT /senders/:id/default', { at: { id: before.id } })
    await changed()
  } })
}
async function changed() {
  await load()
  await frame.changed()
}
</script>

<template>
  <div>
    <PageHead title="Senders" how="sender" :back="{ to: '/settings', name: 'Settings' }">
      The names and addresses your emails come from.
      <template #actions><Button label="New sender" icon="pi pi-plus" @click="edit(null)" /></template>
    </PageHead>
    <ProblemNote v-if="problem" :of="problem" />
    <ProblemNote :of="failed" />
    <p v-if="view && view.waiting > 0" class="note lamp" role="status">{{ saySome(view.waiting, 'email waits', 'emails wait') }} until its
      sender is confirmed, or its mail service takes it. Nothing is lost.</p>
    <p v-if="view && view.waitingForPlans > 0" class="note lamp" role="status">
      {{ saySome(view.waitingForPlans, 'email waits', 'emails wait') }} for another day: the
      warm-up of their sender has no room earlier.</p>
    <div v-if="view" class="columns two">
      <section class="panel" aria-labelledby="your-senders">
        <h2 id="your-senders">Your senders</h2>
        <SenderCard
          v-for="sender in view.senders" :key="sender.id" :sender="sender" :lists="lists" :tags="tags" @changed="changed"
          @edit="edit(sender)" @remove="remove(sender)" @make-default="makeDefault(sender)" />
        <p v-if="!view.senders.length" class="panel-body second">None yet. Add the name and address that your readers know you by.</p>
      </section>
      <div class="stack">
        <DomainPanel v-for="domain in view.domains" :key="domain.domain" :domain="domain" @changed="changed" />
      </div>
    </div>
    <SenderDialog
      v-if="open" v-model:visible="open" :sender="editing" :lists="allLists" :tags="allTags" @saved="changed" />
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr); align-items: start; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
