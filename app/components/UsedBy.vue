<script setup lang="ts">
import type { Use } from '#core/views/marks'
import { addressOf } from '~/words/uses'

/** What names a thing, a line each. */
defineProps<{ uses: readonly Use[] }>()
</script>

<template>
  <span v-for="use in uses" :key="use.how + use.kind + use.id" class="small use">
    {{ use.how }} <NuxtLink :to="addressOf(use)">{{ use.name }}</NuxtLink>
  </span>
</template>

<style scoped>
.use { display: block; }
</style>
