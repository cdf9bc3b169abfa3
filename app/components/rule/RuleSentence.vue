<script setup lang="ts">
import type { SaidRule } from '#core/rules/say'

/** A rule as it is read: when, for whom, what is done. */
defineProps<{ said: SaidRule }>()
</script>

<template>
  <p class="sentence">
    When <strong>{{ said.when }}</strong><template v-if="said.who">, only for people {{ said.who }}</template>:
    <span v-if="!said.then.length" class="second">nothing yet</span>
    <template v-for="(part, n) in said.then" :key="n">
      <span class="done">{{ part }}</span>{{ n < said.then.length - 2 ? ', ' : n === said.then.length - 2 ? ' and ' : '' }}
    </template>
    <template v-if="said.often !== 'each time'"><span class="second">, {{ said.often }}</span></template>.
  </p>
</template>

<style scoped>
.sentence { overflow-wrap: anywhere; text-wrap: pretty; }
.done { color: var(--p-porch-spruce); font-weight: 600; }
</style>
