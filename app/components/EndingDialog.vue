<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { EndingView } from '#core/views/ending'
import { useArchive } from '~/composables/useArchive'
import { useAttempt } from '~/composables/useAttempt'
import { useEnding } from '~/stores/ending'
import UsesOf from './UsesOf.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Asks once more before something is deleted: what becomes of it, what names it, how many people that is about. */
const ending = useEnding()
const route = useRoute()
const { busy, problem, attempt } = useAttempt()
const told = ref<EndingView | null>(null)
watch(() => ending.asked, () => {
  told.value = null
  problem.value = null
})
watch(() => route.fullPath, () => ending.asked = null)

async function accept() {
  if (await attempt(() => ending.asked!.accept())) ending.asked = null
}

const { isArchived, archive } = useArchive()
const canArchive = computed(() => {
  const { kind, id } = ending.asked!.thing
  return kind !== 'hookIn' && kind !== 'hookOut' && kind !== 'part' && !isArchived(kind, id)
})
async function putAway() {
  if (await attempt(() => archive(ending.asked!.thing, 'PUT'))) ending.asked = null
}
</script>

<template>
  <Dialog v-if="ending.asked" visible modal :header="ending.asked.header" :style="{ width: '500px' }" @update:visible="ending.asked = null">
    <div class="fields">
      <p>{{ ending.asked.message }}<template v-if="told?.uses.length"> And:</template></p>
      <UsesOf :kind="ending.asked.thing.kind" :id="ending.asked.thing.id" replaces @told="view => told = view" />
      <p class="second small">Deleting cannot be undone.</p>
      <ProblemNote :of="problem" />
      <div class="ends">
        <Button v-if="canArchive" severity="secondary" label="Archive it instead" class="away" :loading="busy" @click="putAway" />
        <Button severity="secondary" label="Keep it" @click="ending.asked = null" />
        <Button severity="danger" :label="ending.asked.acceptLabel" :disabled="!told || told.blocked" :loading="busy" @click="accept" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.ends { display: flex; justify-content: flex-end; gap: 8px; }
.away { margin-right: auto; }
</style>
