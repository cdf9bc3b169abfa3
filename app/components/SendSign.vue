<script setup lang="ts">
/** The colour and shape of what is sent; a word for those who see neither. */
defineProps<{ kind: 'course' }>()
</script>

<template>
  <svg viewBox="0 0 12 12" width="10" height="10" role="img" :aria-label="kind"><circle cx="6" cy="6" r="5.5" class="course" /></svg>
</template>

<style scoped>
.course { fill: var(--p-send-course); }
</style>
