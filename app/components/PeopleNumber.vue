<script setup lang="ts">
import { sayNumber } from '#core/stats/say'

/** A number that opens the people behind it; nobody needs no opening. `query` narrows the table of subscribers. */
defineProps<{ people: number, query: Record<string, string | number>, words?: string }>()
</script>

<template>
  <NuxtLink v-if="people > 0" :to="{ path: '/subscribers', query }" @click.stop>{{ words ?? sayNumber(people) }}</NuxtLink>
  <template v-else>{{ words ?? sayNumber(people) }}</template>
</template>
