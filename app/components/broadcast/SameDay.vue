<script setup lang="ts">
import { computed } from 'vue'
import { sayNumber, sayPeople } from '#core/stats/say'
import { sayDate, sayMoment } from '#core/time/say'
import type { BroadcastReach } from '#core/views/broadcast'
import SendSign from '~/components/SendSign.vue'

/** What else its readers get on the day on which most of them get it. */
const props = defineProps<{ day: NonNullable<BroadcastReach['sameDay']>, gets: number, zone: string }>()
const FEW = 5
const shown = computed(() => props.day.others.slice(0, FEW))
const others = computed(() => props.gets - props.day.alone)
</script>

<template>
  <section class="day" aria-labelledby="same-day">
    <div>
      <h2 id="same-day">What else they get that day</h2>
      <p class="second small"><strong>{{ sayNumber(day.alone) }}</strong> get nothing else on {{ sayDate(day.date) }}<template
        v-if="others > 0">, {{ sayNumber(others) }} get at least one more email</template>.</p>
    </div>
    <ul v-if="shown.length">
      <li v-for="one in shown" :key="`${one.kind} ${one.ownerId} ${one.itemId}`">
        <span class="second when">{{ sayMoment(one.at, zone) }}</span>
        <SendSign :kind="one.kind" />
        <NuxtLink v-if="one.to" :to="one.to" class="cut">{{ one.of }}: {{ one.title }}</NuxtLink>
        <span v-else class="cut">{{ one.of }}: {{ one.title }}</span>
        <span class="n">{{ sayPeople(one.people) }}</span>
      </li>
      <li v-if="day.others.length > FEW" class="second small">and {{ day.others.length - FEW }} more emails</li>
    </ul>
    <p v-else class="second small">Nothing else is planned for them that day.</p>
  </section>
</template>

<style scoped>
.day { display: grid; grid-template-columns: 232px minmax(0, 1fr); gap: 24px; }
h2 { font: 650 16px/1.3 var(--heading); }
ul { list-style: none; margin: 0; padding: 0; max-width: 640px; }
li { display: flex; gap: 10px; align-items: center; padding: 5px 0; border-bottom: 1px solid var(--p-porch-line); font-size: 13.5px; }
li:last-child { border-bottom: 0; }
.when { width: 132px; flex: none; }
.n { margin-left: auto; white-space: nowrap; }
@media (max-width: 760px) { .day { grid-template-columns: minmax(0, 1fr); gap: 8px; } }
</style>
