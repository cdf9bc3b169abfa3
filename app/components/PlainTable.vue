<script setup lang="ts" generic="Row extends object">
/**
 * Lines of a table, drawn as they are: long lists stand there in a moment. For what a table does besides, sorting and
 * the like, there is PrimeVue's, whose every cell is a component of its own.
 */
export interface PlainColumn { key: string, head: string, /** Of its cells: `number`, `whole`, `wide`, `pick`. */ class?: string }
defineProps<{
  rows: readonly Row[]
  /** What tells them apart; their id, if not said. */
  rowKey?: (row: Row) => PropertyKey
  columns: readonly PlainColumn[]
  /** It scrolls by itself within so much. */
  height?: string
  /** With a last line that is of all of them: the slots `total-…`. */
  total?: boolean
}>()
const emit = defineEmits<{ open: [row: Row] }>()
</script>

<template>
  <div
    class="plain" :class="{ scrolls: height }" :style="height ? { maxHeight: height, overflow: 'auto' } : undefined"
    :tabindex="height ? 0 : undefined">
    <table>
      <thead>
        <tr>
          <th v-for="column in columns" :key="column.key" scope="col" :class="column.class">
            <slot :name="`head-${column.key}`">{{ column.head }}</slot>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="rowKey ? rowKey(row) : (row as { id?: number }).id" @click="emit('open', row)">
          <td v-for="column in columns" :key="column.key" :class="column.class" :data-head="column.head">
            <slot :name="column.key" :row="row" />
          </td>
        </tr>
      </tbody>
      <tfoot v-if="total">
        <tr>
          <td v-for="column in columns" :key="column.key" :class="column.class" :data-head="column.head">
            <slot :name="`total-${column.key}`" />
          </td>
        </tr>
      </tfoot>
    </table>
  </div>
</template>

<style scoped>
.plain { overflow-x: auto; }
table { width: 100%; border-collapse: separate; border-spacing: 0; font-size: inherit; }
th {
  padding: 8px 12px; text-align: left; font: 400 12.5px/1.4 var(--body); color: var(--p-porch-ink-second);
  border-bottom: 1px solid var(--p-porch-line);
}
.scrolls th { position: sticky; top: 0; z-index: 1; background: var(--p-porch-paper); }
td { padding: 8px 12px; vertical-align: baseline; border-bottom: 1px solid var(--p-porch-line-light); }
tbody:last-child > tr:last-child > td { border-bottom: 0; }
tfoot td { font-weight: 600; border-top: 2px solid var(--p-porch-ink); border-bottom: 0; }
tbody > tr:hover > td { background: var(--p-porch-rail); }
.opens tbody > tr { cursor: pointer; }
.number { text-align: right; font-variant-numeric: tabular-nums; }
.whole { white-space: nowrap; }
/* Where rows hold a drawing, what stands beside it is level with its middle. */
.tall td { vertical-align: middle; }
.wide { width: 32%; min-width: 240px; }
/* Where a table is wider than the screen, each row is a card, and each value says what it is. */
@media (max-width: 760px) {
  thead { display: none; }
  table, tbody, tfoot { display: block; }
  tr { display: grid; grid-template-columns: minmax(0, 1fr); gap: 3px; padding: 10px 14px; border-bottom: 1px solid var(--p-porch-line); }
  tr:last-child { border-bottom: 0; }
  tbody > tr > td, tfoot > tr > td {
    display: flex; gap: 12px; align-items: baseline; justify-content: space-between; padding: 0; border: 0; text-align: right;
  }
  tbody > tr > td:first-child, tfoot > tr > td:first-child, td.wide { display: block; text-align: left; }
  tfoot > tr { border-top: 2px solid var(--p-porch-ink); }
  td:not(:first-child, .wide)::before {
    content: attr(data-head); flex: none; color: var(--p-porch-ink-second); font-size: 12.5px; text-align: left;
  }
  td:empty { display: none; }
  .wide { width: auto; min-width: 0; }
}
</style>
