<script setup lang="ts">
import { computed } from 'vue'
import type { SetupStep } from '#core/views/today'
import { SETUP_WORDS } from '~/words/setup'

/** The first steps of a workspace, one stair each: they tick themselves, and each leads to where it is done. */
const props = defineProps<{ steps: SetupStep[] }>()
defineEmits<{ hide: [] }>()

const done = computed(() => props.steps.filter(step => step.done).length)
const next = computed(() => props.steps.find(step => !step.done))
/** A published page stands outside of the application. */
const isOutside = (to: string) => /^https?:/.test(to)
</script>

<template>
  <section class="setup" aria-label="First steps">
    <ol class="stairs" :style="{ '--stairs': steps.length + 1 }">
      <li class="count" :style="{ '--n': 0 }"><strong>Setup: {{ done }} of {{ steps.length }} done</strong></li>
      <li
        v-for="(step, n) in steps" :key="step.key" :class="{ done: step.done, next: step === next }" :style="{ '--n': n + 1 }"
        :aria-current="step === next ? 'step' : undefined">
        <NuxtLink :to="step.to" :target="isOutside(step.to) ? '_blank' : undefined" :title="SETUP_WORDS[step.key].does">
          <i v-if="step.done" class="pi pi-check" aria-hidden="true" />
          <span>{{ SETUP_WORDS[step.key].name }}<span v-if="step.done" class="hidden-label">, done</span></span>
          <i v-if="step === next" class="pi pi-arrow-right" aria-hidden="true" />
        </NuxtLink>
      </li>
      <li class="hide"><button type="button" class="link-button" @click="$emit('hide')">Hide</button></li>
    </ol>
    <p v-if="next" class="why"><strong>Next: {{ SETUP_WORDS[next.key].does.toLowerCase() }}.</strong> {{ SETUP_WORDS[next.key].why }}</p>
  </section>
</template>

<style scoped>
.setup { display: grid; gap: 4px; padding-bottom: 16px; margin-top: -8px; }
.stairs {
  display: flex; align-items: flex-end; margin: 0; padding: 0; list-style: none; height: calc(28px + var(--stairs) * 3px);
}
/* Each a little higher than the one before. */
.stairs li {
  flex: 1 1 auto; display: flex; justify-content: center; padding: 0 12px 5px; margin-bottom: calc(var(--n, 0) * 3px);
  border-bottom: 4px solid var(--p-porch-line); white-space: nowrap; font-size: 13.5px;
}
.stairs li.count { flex: none; padding-left: 0; border-color: var(--p-porch-rail-wood); }
.stairs li.done { border-color: var(--p-porch-spruce); }
.stairs li.next { border-color: var(--p-porch-lamp); font-weight: 600; }
.stairs li.hide { flex: none; padding-right: 0; border-color: transparent; margin-bottom: calc(var(--stairs) * 3px - 3px); }
.stairs a {
  display: inline-flex; gap: 6px; align-items: baseline; min-height: 24px; color: var(--p-porch-ink-second); text-decoration: none;
}
.stairs a:hover { text-decoration: underline; }
.stairs .done a { color: var(--p-porch-spruce); }
.stairs .next a { color: var(--p-porch-lamp-text); }
.stairs .pi { font-size: 11px; }
@media (max-width: 900px) {
  .stairs { display: grid; height: auto; gap: 2px; }
  .stairs li {
    margin: 0; justify-content: flex-start; padding: 6px 0 6px 12px; border-bottom: 0; border-left: 4px solid var(--p-porch-line);
  }
  .stairs li.count { padding-left: 12px; }
  /* Where there is little room, only what comes next. */
  .stairs li:not(.count, .next, .hide) { display: none; }
}
</style>
