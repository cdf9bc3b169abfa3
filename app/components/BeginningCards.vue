<script setup lang="ts">
/** What a new thing begins as: a card each, one of them chosen. */
defineProps<{ legend: string, name: string, options: { value: string | number | null, name: string, says: string }[] }>()
const chosen = defineModel<string | number | null>({ required: true })
</script>

<template>
  <fieldset>
    <legend class="small second">{{ legend }}</legend>
    <label v-for="one in options" :key="String(one.value)" class="beginning" :class="{ on: chosen === one.value }">
      <input v-model="chosen" type="radio" :name="name" :value="one.value" />
      <span><strong>{{ one.name }}</strong><span class="second small">{{ one.says }}</span></span>
    </label>
  </fieldset>
</template>

<style scoped>
fieldset {
  border: 0; margin: 0; padding: 0; display: grid; grid-template-columns: 1fr 1fr; gap: 8px; max-height: 284px; overflow: auto;
}
legend { padding: 0 0 4px; }
.beginning {
  display: flex; align-items: flex-start; gap: 8px; padding: 9px 10px; border: 1.5px solid var(--p-porch-line); border-radius: 6px;
  cursor: pointer;
}
.beginning.on { border-color: var(--p-porch-door); background: var(--p-porch-rail); }
.beginning:focus-within { outline: 2px solid var(--p-porch-focus); }
.beginning input { margin: 4px 0 0; accent-color: var(--p-porch-door); }
.beginning > span { display: grid; align-content: start; }
@media (max-width: 640px) { fieldset { grid-template-columns: minmax(0, 1fr); } }
</style>
