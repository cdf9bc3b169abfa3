<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import type { MenuItem } from '~/editor/email/menu'

/** Something to choose from, beside where it was asked for. The keys stay with who asked. */
const props = defineProps<{ label: string, items: MenuItem[], chosen: number, left: number, top: number }>()
const emit = defineEmits<{ take: [item: MenuItem] }>()
const list = ref<HTMLElement>()
const HEIGHT = 330
watch(() => props.chosen, () => void nextTick(() => list.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest' })))
const place = () => {
  const above = props.top + HEIGHT > window.innerHeight && props.top > HEIGHT
  return {
    left: `${Math.max(8, Math.min(props.left, window.innerWidth - 316))}px`,
    ...above ? { bottom: `${window.innerHeight - props.top + 26}px` } : { top: `${props.top + 6}px` },
  }
}
</script>

<template>
  <div ref="list" class="menu" role="listbox" tabindex="0" :aria-label="label" :style="place()">
    <button
      v-for="(item, n) in items" :key="item.name" type="button" role="option" :aria-selected="n === chosen" :class="{ on: n === chosen }"
      tabindex="-1" @mousedown.prevent @click="emit('take', item)">
      <i :class="item.icon" aria-hidden="true" />
      <span><strong>{{ item.name }}</strong> <span class="second small">{{ item.hint }}</span></span>
    </button>
  </div>
</template>

<style scoped>
.menu {
  position: fixed; z-index: 1200; width: 308px; max-height: 330px; overflow: auto; padding: 4px; display: grid; gap: 1px;
  background: var(--p-porch-paper); border: 1px solid var(--p-porch-line); border-radius: 8px; box-shadow: 0 8px 28px rgb(29 44 60 / 18%);
}
button {
  display: flex; gap: 10px; align-items: center; min-height: 32px; padding: 4px 8px; border: 0; border-radius: 5px; background: none;
  color: inherit; text-align: left; cursor: pointer;
}
button .pi { width: 18px; text-align: center; color: var(--p-porch-ink-second); }
button.on, button:hover { background: var(--p-porch-rail); }
</style>
