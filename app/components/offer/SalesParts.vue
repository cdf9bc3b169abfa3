<script setup lang="ts">
import { sayMoney } from '#core/money/money'
import type { SalesPart } from '#core/views/offers'
import { sayNumber } from '#core/stats/say'

/** Sales by one thing, the most bought first; each number opens the purchases behind it. */
defineProps<{ title: string, parts: SalesPart[] }>()
const emit = defineEmits<{ open: [key: string] }>()
</script>

<template>
  <section class="panel" :aria-label="title">
    <h2>{{ title }}</h2>
    <ul>
      <li v-for="part in parts" :key="part.key">
        <span class="cut" :title="part.says">{{ part.says }}</span>
        <button type="button" class="open" :aria-label="`${sayNumber(part.bought)}: ${part.says}`" @click="emit('open', part.key)">
          {{ sayNumber(part.bought) }}
        </button>
        <span class="money">{{ part.money.map(sayMoney).join(' and ') }}</span>
      </li>
      <li v-if="parts.length === 0" class="second">No sales in this period.</li>
    </ul>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 6px 14px 10px; max-height: 190px; overflow: auto; }
li {
  display: grid; grid-template-columns: minmax(0, 1fr) auto minmax(70px, auto); gap: 12px; padding: 3px 0; align-items: baseline;
  font-variant-numeric: tabular-nums;
}
.money { text-align: right; }
.open {
  background: none; border: 0; padding: 0 2px; color: var(--p-porch-door); cursor: pointer; font: inherit; text-decoration: underline;
  text-decoration-color: color-mix(in srgb, currentcolor 35%, transparent); min-width: 24px; min-height: 24px; text-align: right;
}
</style>
