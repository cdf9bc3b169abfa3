<script setup lang="ts">
import { computed } from 'vue'
import { sayNumber } from '#core/stats/say'
import { sayShortDate } from '#core/time/say'
import type { BroadcastReach } from '#core/views/broadcast'

/** On which days how many get it, where its sender is being warmed up and one day is not enough. */
const props = defineProps<{ warmUp: NonNullable<BroadcastReach['warmUp']> }>()
const MOST_SHOWN = 6
const days = computed(() => props.warmUp.days.filter(({ people }) => people > 0))
const shown = computed(() => days.value.length <= MOST_SHOWN ? days.value : days.value.slice(0, MOST_SHOWN - 1))
const last = computed(() => days.value.length <= MOST_SHOWN ? null : days.value.at(-1)!)
</script>

<template>
  <p v-if="days.length > 1" class="note lamp">{{ warmUp.sender }} is <NuxtLink to="/senders">being warmed up</NuxtLink>,
    so it takes {{ days.length }} days:<template
      v-for="(day, n) in shown" :key="day.date">{{ n > 0 ? ', ' : ' ' }}<strong>{{ sayNumber(day.people) }}</strong> on
      {{ sayShortDate(day.date) }}</template><template v-if="last">, and so on to the last <strong>{{ sayNumber(last.people) }}</strong> on
      {{ sayShortDate(last.date) }}</template>.</p>
</template>
