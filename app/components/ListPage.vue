<script setup lang="ts" generic="Row extends { id: number }">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { GlossaryKey } from '#core/glossary'
import type { ThingKind } from '#core/things'
import { WEEKS, type WeeklyKind } from '#core/views/weeks'
import { api } from '~/composables/useApi'
import { useShelf } from '~/composables/useArchive'
import { useFresh } from '~/composables/useFresh'
import PageHead from '~/components/PageHead.vue'
import PlainTable, { type PlainColumn } from '~/components/PlainTable.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import ShelfSwitch from '~/components/ShelfSwitch.vue'
import SparkBars from '~/components/SparkBars.vue'

/**
 * All things of a kind, a line each, that open by a press on them. The columns are drawn by slots of their names, but for `weeks`, which is
 * the small chart of the last weeks; besides: `actions`, `before` and `after` the list, `none` for who has none yet, and dialogs.
 */
const props = defineProps<{
  title: string
  /** What the screen is about, in the glossary. */
  how?: GlossaryKey
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
  /** What the small charts count, where there are some. */
  weekly?: { kind: WeeklyKind, words: string }
  /** The states a thing can be in. */
  states?: readonly { name: string, is: (row: Row) => boolean }[]
  /** Other orders than that in which they were made. */
  orders?: readonly { name: string, compare: (one: Row, other: Row) => number }[]
}>()

/** So few are in sight at once. */
const FEW = 4
const { shown: inSight, away, showsAway } = useShelf(props.kind, () => props.rows)
const { data: weeks } = useFresh(async () => props.weekly ? api('GET /weeks/:kind', { at: { kind: props.weekly.kind } }) : null)
const countsOf = computed(() => new Map(weeks.value?.rows.map(({ id, counts }) => [id, counts])))
const none = computed(() => weeks.value ? Array<number>(WEEKS).fill(0) : null)

const sought = ref('')
const state = ref(-1)
const order = ref(-1)
const states = computed(() => [{ value: -1, name: 'Any status' }, ...(props.states ?? []).map(({ name }, value) => ({ value, name }))])
const orders = computed(() =>
  [{ value: -1, name: 'In the order made' }, ...(props.orders ?? []).map(({ name }, value) => ({ value, name }))])
const shown = computed(() => {
  const text = sought.value.trim().toLowerCase()
  const is = props.states?.[state.value]?.is
  const found = inSight.value.filter(row => (!is || is(row)) && props.find.by(row).some(one => one.toLowerCase().includes(text)))
  const compare = props.orders?.[order.value]?.compare
  return compare ? [...found].sort(compare) : found
})
</script>

<template>
  <div>
    <PageHead :title="title" :how="how">
      {{ standing }}
      <template #actions><slot name="actions" /></template>
    </PageHead>
    <ProblemNote :of="problem" />
    <div v-if="rows" class="stack">
      <slot name="before" />
      <div v-if="rows.length >= FEW || showsAway || away.length" class="tools">
        <template v-if="rows.length >= FEW">
          <InputText
            v-model="sought" size="small" :placeholder="`Search ${find.words}`" :aria-label="`Search ${find.words}`" class="find" />
          <Select
            v-if="props.states" v-model="state" :options="states" option-label="name" option-value="value" size="small"
            aria-label="Status" />
          <Select
            v-if="props.orders" v-model="order" :options="orders" option-label="name" option-value="value" size="small"
            aria-label="Order" />
        </template>
        <ShelfSwitch v-model="showsAway" :away="away.length" />
      </div>
      <section v-if="rows.length" class="panel" :aria-label="title">
        <PlainTable :rows="shown" :columns="columns" class="opens" :class="{ tall: weekly }" @open="({ id }) => navigateTo(`${to}/${id}`)">
          <template v-for="{ key } in columns" :key="key" #[key]="{ row }">
            <SparkBars v-if="key === 'weeks' && weekly" :counts="countsOf.get(row.id) ?? none" :words="weekly.words" />
            <slot v-else :name="key" :row="row as Row" />
          </template>
        </PlainTable>
        <p v-if="!shown.length" class="row second">
          {{ sought ? `Nothing has “${sought}” in it.` : state >= 0 ? 'None has this status.' : 'All of them are archived.' }}</p>
      </section>
      <section v-else class="panel panel-body"><slot name="none" /></section>
      <slot name="after" />
    </div>
    <slot />
  </div>
</template>

<style scoped>
.tools { display: flex; flex-wrap: wrap; align-items: center; gap: 8px; }
.tools > :last-child:not(.find, .p-select) { margin-left: auto; }
.find { width: 248px; }
</style>
