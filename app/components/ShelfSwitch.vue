<script setup lang="ts">
/** Under a list: how many are put away, and the way to them and back. */
defineProps<{ away: number }>()
const shows = defineModel<boolean>({ required: true })
</script>

<template>
  <p v-if="away > 0" class="small second away">
    <template v-if="shows">These are archived. </template>
    <button type="button" class="link-button small" @click="shows = !shows">{{ shows ? 'Back to the list' : `Archived (${away})` }}</button>
  </p>
</template>

<style scoped>
.panel > .away { padding: 8px 14px; }
</style>
