<script setup lang="ts">
import { ref } from 'vue'
import type { DraftStep } from '#core/sequence/draft'
import { STEP_KINDS } from '~/courses/steps'

/** Adds a step of a kind, where it stands: the kinds open in place. */
defineProps<{ where: string, several?: boolean }>()
/** `several`: emails can be added several at a time here. */
const emit = defineEmits<{ add: [kind: DraftStep['kind']], several: [] }>()
const open = ref(false)
function add(kind: DraftStep['kind']) {
  open.value = false
  emit('add', kind)
}
function addSeveral() {
  open.value = false
  emit('several')
}
</script>

<template>
  <div class="adding">
    <button type="button" class="link-button" :aria-expanded="open" :aria-label="`a step, ${where}`" @click="open = !open">
      <i class="pi small" :class="open ? 'pi-times' : 'pi-plus'" aria-hidden="true" /> a step</button>
    <ul v-if="open" :aria-label="`Kinds of step, ${where}`">
      <li v-if="several">
        <button type="button" class="kind" @click="addSeveral"><i class="pi pi-list" aria-hidden="true" /> <strong>several emails</strong>
          <span class="second small">a number of them, or a pasted outline</span></button>
      </li>
      <li v-for="one in STEP_KINDS" :key="one.kind">
        <button type="button" class="kind" @click="add(one.kind)"><i :class="one.icon" aria-hidden="true" /> <strong>{{ one.name }}</strong>
          <span class="second small">{{ one.hint }}</span></button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
ul {
  display: grid; grid-template-columns: repeat(auto-fill, minmax(min(190px, 100%), 1fr)); gap: 6px; margin: 6px 0 0; padding: 0;
  list-style: none;
}
.kind {
  display: grid; grid-template-columns: auto 1fr; gap: 0 8px; align-items: baseline; width: 100%; height: 100%; padding: 7px 10px;
  text-align: left; color: inherit; background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 6px;
  cursor: pointer;
}
.kind:hover { border-color: var(--p-porch-door); }
.kind .second { grid-column: 2; }
</style>
