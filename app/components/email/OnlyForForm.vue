<script setup lang="ts">
import Button from 'primevue/button'
import type { CaseNode } from '#core/message/content'
import { sayPeople } from '#core/stats/say'
import { sayCase, type Sight } from '~/editor/email/onlyFor'

/** The versions of one place, in the order in which they are tried. */
defineProps<{ cases: readonly CaseNode['attrs'][], sight: Sight | undefined }>()
defineEmits<{ show: [n: number], change: [n: number], up: [n: number], remove: [n: number], add: [], rest: [], unwrap: [] }>()
</script>

<template>
  <div class="fields">
    <p class="second small">A reader gets the first version that fits them.</p>
    <ol>
      <li v-for="(one, n) in cases" :key="n">
        <button type="button" class="link-button name" @click="$emit('show', n)">{{ sayCase(one, sight?.cases[n]?.says) }}</button>
        <span v-if="sight?.cases[n]" class="second small">{{ sayPeople(sight.cases[n].people) }}</span>
        <span class="acts small">
          <button v-if="one.who !== null" type="button" class="link-button" @click="$emit('change', n)">Choose who</button>
          <button v-if="n > 0 && one.who !== null" type="button" class="link-button" @click="$emit('up', n)">Try it earlier</button>
          <button v-if="cases.length > 1" type="button" class="link-button brick-text" @click="$emit('remove', n)">Delete</button>
        </span>
      </li>
    </ol>
    <p v-if="cases.at(-1)?.who !== null" class="second small">Everybody else gets nothing here<template v-if="sight">:
      {{ sayPeople(sight.none) }}</template>.</p>
    <div class="acts">
      <Button label="Add a version" size="small" severity="secondary" @click="$emit('add')" />
      <Button
        v-if="cases.at(-1)?.who !== null" label="One for everybody else" size="small" severity="secondary" @click="$emit('rest')" />
    </div>
    <button type="button" class="link-button small start" @click="$emit('unwrap')">Show what stands here to everybody</button>
  </div>
</template>

<style scoped>
ol { margin: 0; padding-left: 20px; display: grid; gap: 8px; }
li { overflow-wrap: anywhere; }
.name { font-weight: 600; text-align: left; margin-right: 6px; }
.acts { display: flex; gap: 4px 12px; flex-wrap: wrap; }
.start { justify-self: start; }
</style>
