<script setup lang="ts">
import Button from 'primevue/button'
import { AGAIN_WORDS } from '#core/broadcast/again'
import { readLine } from '#core/message/content'
import { rateOf } from '#core/stats/rate'
import { sayNumber, sayRate } from '#core/stats/say'
import { sayMoment } from '#core/time/say'
import type { SecondSending } from '#core/views/broadcast'
import StateDot from '~/components/StateDot.vue'
import { DOT_OF_STATE, sayState } from './states'

/** The second sendings of a broadcast, and what can be done with each. */
defineProps<{ again: SecondSending[], busy: boolean, zone: string }>()
defineEmits<{ act: [sendId: number, act: 'take-back' | 'pause' | 'resume' | 'stop'] }>()
</script>

<template>
  <section class="panel" aria-labelledby="second-sendings">
    <h2 id="second-sendings">Sent again</h2>
    <ul>
      <li v-for="one in again" :key="one.sendId">
        <div class="what">
          <strong>{{ readLine(one.spec.subject) }}</strong>
          <span class="second small sub">To people who {{ AGAIN_WORDS[one.spec.without] }}{{ one.isPlanned
            ? ', planned with the first' : '' }}.
            {{ one.state === 'scheduled' ? 'Begins' : 'Began' }} {{ sayMoment(one.dueAt, zone) }}.</span>
          <StateDot :is="DOT_OF_STATE[one.state]" :words="sayState(one)" class="small" />
        </div>
        <p v-if="one.progress && one.progress.handedOver > 0" class="small numbers">
          {{ sayNumber(one.progress.handedOver) }} sent, {{ sayRate(rateOf(one.opened ?? 0, one.progress.handedOver)) }} reader opens,
          {{ sayRate(rateOf(one.clicked ?? 0, one.progress.handedOver)) }} clicked, {{ sayNumber(one.left ?? 0) }} unsubscribed
        </p>
        <div class="acts">
          <Button
            v-if="one.state === 'scheduled'" label="Cancel sending" severity="secondary" size="small" :disabled="busy"
            @click="$emit('act', one.sendId, 'take-back')" />
          <Button
            v-if="one.state === 'sending'" label="Pause" severity="secondary" size="small" :disabled="busy"
            @click="$emit('act', one.sendId, 'pause')" />
          <Button v-if="one.state === 'paused'" label="Resume" size="small" :disabled="busy" @click="$emit('act', one.sendId, 'resume')" />
          <Button
            v-if="one.state === 'sending' || one.state === 'paused'" label="Stop the rest" severity="secondary" size="small"
            :disabled="busy"
            @click="$emit('act', one.sendId, 'stop')" />
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul { list-style: none; margin: 0; padding: 0; }
li {
  display: flex; gap: 16px; align-items: center; padding: 10px 14px; border-bottom: 1px solid var(--p-porch-line-light); flex-wrap: wrap;
}
li:last-child { border-bottom: 0; }
.what { flex: 1; min-width: 220px; }
.sub { display: block; }
.acts { display: flex; gap: 8px; }
</style>
