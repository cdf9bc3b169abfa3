<script setup lang="ts">
/** The parts of something that is too much for one screen, the one that is shown underlined. */
defineProps<{ parts: readonly { value: string, name: string }[], chosen: string, label: string, wanting: (part: string) => boolean }>()
const emit = defineEmits<{ choose: [part: string] }>()
</script>

<template>
  <nav class="parts" :aria-label="label">
    <button
      v-for="part in parts" :key="part.value" type="button" :aria-current="chosen === part.value ? 'page' : undefined"
      @click="emit('choose', part.value)">
      {{ part.name }}<i
        v-if="wanting(part.value)" class="pi pi-exclamation-circle wanting" role="img" aria-label="something is still missing" />
    </button>
  </nav>
</template>

<style scoped>
.parts { display: flex; gap: 2px; border-bottom: 1px solid var(--p-porch-line); margin-bottom: 12px; flex-wrap: wrap; }
.parts button {
  border: 0; background: none; color: var(--p-porch-ink-second); padding: 7px 12px 8px; cursor: pointer;
  border-bottom: 2px solid transparent; margin-bottom: -1px;
}
.parts button:hover { color: var(--p-porch-ink); }
.parts button[aria-current] { color: var(--p-porch-ink); font-weight: 600; border-bottom-color: var(--p-porch-door); }
.wanting { color: var(--p-porch-brick); font-size: 12px; padding-left: 5px; }
</style>
