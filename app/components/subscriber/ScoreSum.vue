<script setup lang="ts">
import { ref } from 'vue'
import { sayDay } from '#core/time/say'
import type { ScoreOfPerson } from '#core/views/score'

/** Somebody's points as a sum that can be followed, each with what it is still worth. */
defineProps<{ score: ScoreOfPerson, zone: string }>()
const open = ref(false)
const say = (points: number) => points.toLocaleString('en-GB', { maximumFractionDigits: 1 })
const signed = (points: number) => `${points > 0 ? '+' : ''}${say(points)}`
</script>

<template>
  <section class="panel" aria-labelledby="score-sum">
    <h2 id="score-sum">Score</h2>
    <div class="panel-body">
      <p><strong class="value">{{ say(score.value) }}</strong> <span class="second">points now; each loses half its value in
        {{ score.halfLifeDays }}
        days.</span> <button v-if="score.lines.length" type="button" class="link-button" :aria-expanded="open" @click="open = !open">{{ open
        ? 'Close' : 'How it adds up' }}</button></p>
      <p v-if="!score.lines.length" class="second">No points yet.</p>
      <table v-if="open">
        <thead><tr><th>What</th><th class="number">Points</th><th class="number">Worth now</th></tr></thead>
        <tbody>
          <tr v-for="(line, n) in score.lines" :key="n">
            <td>
              {{ line.says }}<span class="second small sub">{{ sayDay(line.at, zone, true) }}<template v-if="line.ruleId">, given by
                <NuxtLink :to="`/house-rules/${line.ruleId}`">a house rule</NuxtLink></template></span>
            </td>
            <td class="number">{{ signed(line.points) }}</td><td class="number">{{ say(line.worth) }}</td>
          </tr>
          <tr v-if="score.rest.count">
            <td class="second">{{ score.rest.count }} more, from before</td>
            <td />
            <td class="number">{{ say(score.rest.worth) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>

<style scoped>
.value { font: 650 21px/1.2 var(--heading); }
table { width: 100%; border-collapse: collapse; margin-top: 8px; }
th { text-align: left; font-size: 12.5px; font-weight: 600; color: var(--p-porch-ink-second); padding: 4px 0; }
th.number { text-align: right; }
td { padding: 5px 0; border-top: 1px solid var(--p-porch-line-light); vertical-align: baseline; }
td.number { padding-left: 12px; }
.sub { display: block; }
</style>
