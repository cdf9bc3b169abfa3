<script setup lang="ts">
import { VERDICT_WORDS } from '#core/rules/outcome'
import type { ChainLine } from '#core/views/rules'

/** What came of what, from its beginning down. */
defineProps<{ lines: ChainLine[] }>()
const CUT = ['circle', 'too-deep']
</script>

<template>
  <ol class="chain">
    <li
      v-for="(line, n) in lines" :key="n"
      :class="[line.kind, line.kind === 'rule' && { cut: CUT.includes(line.verdict), idle: line.verdict !== 'acts' }]"
      :style="{ '--level': line.level }">
      <template v-if="line.kind === 'event'">{{ line.says }}</template>
      <template v-else>
        <NuxtLink :to="`/house-rules/${line.ruleId}`" class="rule-says">{{ line.says }}</NuxtLink>
        <span v-if="line.verdict !== 'acts'" class="verdict small">{{ VERDICT_WORDS[line.verdict] }}</span>
        <ul v-else class="did small"><li v-for="(did, at) in line.did" :key="at">{{ did }}</li></ul>
      </template>
    </li>
  </ol>
</template>

<style scoped>
.chain { list-style: none; margin: 0; padding: 0; display: grid; gap: 4px; }
.chain > li {
  margin-left: calc(var(--level) * 18px); padding: 3px 0 3px 12px; border-left: 2px solid var(--p-porch-line); overflow-wrap: anywhere;
}
.chain > li.event { border-left-color: var(--p-porch-door); }
.chain > li.rule {
  border-left-color: var(--p-porch-spruce); background: var(--p-porch-rail); border-radius: 0 6px 6px 0; padding-right: 8px;
}
.chain > li.idle { border-left-color: var(--p-porch-line); }
.chain > li.cut { border-left-color: var(--p-porch-brick); background: var(--p-porch-brick-ground); }
.verdict { display: block; color: var(--p-porch-ink-second); }
.cut .verdict { color: var(--p-porch-brick); }
.did { margin: 2px 0 0; padding-left: 16px; color: var(--p-porch-ink-second); }
</style>
