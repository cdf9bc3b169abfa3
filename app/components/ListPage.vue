<script setup lang="ts" generic="Row extends { id: number }">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import InputText from 'primevue/inputtext'
import type { ThingKind } from '#core/things'
import { useShelf } from '~/composables/useArchive'
import PageHead from '~/components/PageHead.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'

/**
 * All things of a kind, a line each, that open by a press on them. The columns are drawn by slots of their names; besides: `actions`,
 * `before` and `after` the list, `none` for who has none yet, and dialogs.
 */
const props = defineProps<{
  title: string
  /** How they stand as a whole, in a sentence. */
  standing: string
  kind: ThingKind
  /** Null while they are being asked for. */
  rows: readonly Row[] | null
  problem: string | null
  columns: readonly PlainColumn[]
  /** Where one is opened, without its number. */
  to: string
  /** The texts by which one is found, and what they are. */
  find: { by: (row: Row) => string[], words: string }
}>()

/** So few are in sight at once. */
const FEW = 5
const { shown: inSight, away, showsAway } = useShelf(props.kind, () => props.rows)
const sought = ref('')
const shown = computed(() => {
  const text = sought.value.trim().toLowerCase()
  return inSight.value.filter(row => props.find.by(row).some(one => one.toLowerCase().includes(text)))
})
</script>

<template>
  <div>
    <PageHead :title="title">
      {{ standing }}
      <template #actions><slot name="actions" /></template>
    </PageHead>
    <ProblemNote :of="problem" />
    <div v-if="rows" class="stack">
      <slot name="before" />
      <section v-if="rows.length" class="panel" :aria-label="title">
        <div v-if="rows.length > FEW" class="panel-head">
          <InputText
            v-model="sought" size="small" :placeholder="`any part of ${find.words}`" :aria-label="`Find by ${find.words}`" class="find" />
        </div>
        <PlainTable :rows="shown" :columns="columns" class="opens" @open="({ id }) => navigateTo(`${to}/${id}`)">
          <template v-for="{ key } in columns" :key="key" #[key]="{ row }"><slot :name="key" :row="row as Row" /></template>
        </PlainTable>
        <p v-if="!shown.length" class="row second">{{ sought ? `Nothing has “${sought}” in it.` : 'All of them are archived.' }}</p>
        <ShelfSwitch v-model="showsAway" :away="away.length" />
      </section>
      <section v-else class="panel panel-body"><slot name="none" /></section>
      <slot name="after" />
    </div>
    <slot />
  </div>
</template>

<style scoped>
.find { width: 280px; }
</style>
