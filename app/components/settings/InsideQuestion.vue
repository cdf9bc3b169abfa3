<script setup lang="ts">
import Button from 'primevue/button'
import type { ApiProblem } from '~/composables/useApi'

/** An address that leads into a private network is used only once its owner says that it is meant. */
defineProps<{ problem: ApiProblem | null, field: string }>()
defineEmits<{ meant: [] }>()
</script>

<template>
  <p v-if="problem?.of(`${field}-inside`)" class="note lamp ask" role="alert">
    {{ problem.of(`${field}-inside`) }} <Button label="Yes, use it" size="small" severity="secondary" @click="$emit('meant')" />
  </p>
</template>

<style scoped>
.ask { display: flex; gap: 10px; align-items: center; justify-content: space-between; flex-wrap: wrap; }
</style>
