<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { RULE_PIECES, ruleOfPiece } from '#core/rules/pieces'
import { sayRuleParts } from '#core/rules/say'
import { useRuleParts } from '~/composables/useParts'
import { ruleNamesFrom } from '~/rules/choices'
import { hasFor, piecePartsOf } from '~/rules/pieces'
import { useFrame } from '~/stores/frame'
import RuleSentence from './RuleSentence.vue'

/** Ready rules with their reasons. Copying one opens it with things of this workspace in it, to be looked over and saved. */
const frame = useFrame()
const parts = useRuleParts()
const made = computed(() => piecePartsOf(parts.value))
const has = computed(() => hasFor(made.value))
const names = computed(() => ruleNamesFrom(parts.value, frame.zone))
const pieces = computed(() => RULE_PIECES.map((piece, n) => ({ n, name: piece.name, reason: piece.reason, missing: piece.needs.filter(need => !has.value[need]), said: sayRuleParts(ruleOfPiece(piece, made.value), names.value) })))
const copy = (n: number) => navigateTo(`/house-rules/new?piece=${n}`)
</script>

<template>
  <ul class="pieces">
    <li v-for="piece in pieces" :key="piece.n">
      <div class="head"><h3>{{ piece.name }}</h3><Button :label="piece.missing.length ? 'Not yet' : 'Copy it'" size="small" severity="secondary" :disabled="piece.missing.length > 0" :aria-label="`Copy the rule: ${piece.name}`" @click="copy(piece.n)" /></div>
      <p class="second">{{ piece.reason }}</p>
      <p v-if="piece.missing.length" class="small second">Make {{ piece.missing.map(need => `${need === 'offer' ? 'an' : 'a'} ${need}`).join(' and ') }} first.</p>
      <RuleSentence v-else :said="piece.said" class="small" />
    </li>
  </ul>
</template>

<style scoped>
.pieces { list-style: none; margin: 0; padding: 0; display: grid; }
.pieces > li { display: grid; gap: 4px; padding: 12px 0; border-bottom: 1px solid var(--p-porch-line-light); }
.head { display: flex; align-items: center; justify-content: space-between; gap: 12px; }
</style>
