<script setup lang="ts">
import { computed, ref } from 'vue'
import Popover from 'primevue/popover'
import { entryOf, type GlossaryKey } from '#core/glossary'

/** A word of ours that says what it means once it is pressed; as `how`, the way to how a whole screen works. */
const props = defineProps<{ of: GlossaryKey, how?: boolean }>()
const entry = computed(() => entryOf(props.of))
const popover = ref<InstanceType<typeof Popover>>()
const open = ref(false)
</script>

<template>
  <button
    type="button" :class="how ? 'link-button small' : 'term'" :aria-expanded="open" :title="how ? undefined : entry.says"
    @click.stop="popover?.toggle($event)"><slot>How this works</slot></button>
  <Popover ref="popover" @show="open = true" @hide="open = false">
    <div class="meaning">
      <p><strong>{{ entry.word.charAt(0).toUpperCase() + entry.word.slice(1) }}.</strong> {{ entry.says }}</p>
      <ul v-if="how && entry.how"><li v-for="sentence in entry.how" :key="sentence">{{ sentence }}</li></ul>
    </div>
  </Popover>
</template>

<style scoped>
.term {
  display: inline; padding: 0; border: 0; background: none; font: inherit; color: inherit; cursor: help; text-align: inherit;
  text-decoration: underline dotted; text-decoration-color: var(--p-porch-ink-third); text-underline-offset: 3px;
}
.meaning { max-width: 420px; display: grid; gap: 6px; }
ul { margin: 0; padding-left: 18px; display: grid; gap: 4px; }
</style>
