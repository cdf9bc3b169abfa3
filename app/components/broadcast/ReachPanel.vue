<script setup lang="ts">
import { computed } from 'vue'
import { HELD_BACK_WORDS } from '#core/sending/reasons'
import { sayNumber, sayPeople } from '#core/stats/say'
import type { BroadcastReach } from '#core/views/broadcast'
import PeopleNumber from '~/components/PeopleNumber.vue'
import TermTip from '~/components/TermTip.vue'

/** Who gets it, as a number, as a sentence, and as a part of its audience with who is held back and why. */
const props = defineProps<{ id: number, reach: BroadcastReach | null, counting: boolean, changes: boolean }>()
defineEmits<{ edit: [] }>()
const query = (key: string) => ({ broadcast: props.id, who: key })
const share = (people: number) => `${100 * people / Math.max(1, props.reach?.audience.people ?? 1)}%`
/** From dark to pale, in the fixed order. */
const shade = (n: number) => ({ '--depth': `${Math.max(18, 84 - n * 14)}%` })
const more = computed(() => (props.reach?.gets.people ?? 0) - (props.reach?.five.length ?? 0))
const listShare = computed(() => {
  const list = props.reach?.list
  return list && list.people > 0 ? Math.round(100 * list.gets / list.people) : null
})
</script>

<template>
  <section aria-label="People who get it" :aria-busy="counting">
    <div class="grid">
      <div>
        <p class="big" :class="{ old: counting }" role="status">{{ reach ? sayNumber(reach.gets.people) : '–' }}</p>
        <p v-if="reach">
          <PeopleNumber
            :people="reach.gets.people" :query="query('gets')" :words="reach.gets.people === 1 ? 'person gets it' : 'people get it'" />
        </p>
        <p v-if="listShare !== null && reach?.list" class="second small">{{ listShare }}% of the list “{{ reach.list.name }}”</p>
      </div>
      <dl>
        <dt>Gets it</dt>
        <dd class="sentence">people {{ reach?.getsIt || 'of every kind' }}
          <button v-if="changes" type="button" class="link-button small" @click="$emit('edit')">Change the audience</button></dd>
        <dt><TermTip of="never">Never</TermTip></dt>
        <dd class="sentence">{{ reach?.never ? `people ${reach.never}` : 'nobody besides the guards below' }}</dd>
        <dt class="second">For example</dt>
        <dd class="small">
          <template v-for="(person, n) in reach?.five ?? []" :key="person.id">{{ n > 0 ? ', ' : '' }}<NuxtLink
            :to="`/subscribers/${person.id}`">{{ person.name }}</NuxtLink></template>
          <template v-if="more > 0"> and {{ sayNumber(more) }} more</template>
          <template v-if="reach && reach.five.length === 0">nobody yet</template>
        </dd>
      </dl>
    </div>
    <template v-if="reach && reach.audience.people > 0">
      <div class="bar" aria-hidden="true">
        <span class="gets" :style="{ width: share(reach.gets.people) }" />
        <span v-for="(one, n) in reach.heldBack" :key="one.reason" class="held" :style="{ width: share(one.people), ...shade(n) }" />
      </div>
      <div class="legend small">
        <span>
          <strong><PeopleNumber :people="reach.held.people" :query="query('held')" /></strong> of
          <strong><PeopleNumber :people="reach.audience.people" :query="query('audience')" /></strong>
          {{ reach.held.people === 1 ? 'is' : 'are' }} <TermTip of="held-back">held back</TermTip></span>
        <span v-for="(one, n) in reach.heldBack" :key="one.reason">
          <i :style="shade(n)" aria-hidden="true" /><strong><PeopleNumber :people="one.people" :query="query(one.key)" /></strong>
          {{ HELD_BACK_WORDS[one.reason] }}</span>
      </div>
      <p v-if="reach.heard.length" class="second small heard">Last email from you:
        <template v-for="(one, n) in reach.heard" :key="one.key">{{ n > 0 ? ', ' : ' ' }}{{ one.says }}
          <PeopleNumber :people="one.people" :query="query(one.key)" :words="sayPeople(one.people)" /></template>.</p>
    </template>
  </section>
</template>

<style scoped>
.grid { display: grid; grid-template-columns: 232px minmax(0, 1fr); gap: 24px; align-items: start; }
.big { font: 700 58px/1.05 var(--heading); letter-spacing: -0.02em; font-variant-numeric: tabular-nums; }
.big.old { color: var(--p-porch-ink-second); }
dl { display: grid; grid-template-columns: 84px minmax(0, 1fr); gap: 6px 0; margin: 0; align-items: baseline; }
dt { font-weight: 600; font-size: 13px; }
dt.second { font-weight: 400; }
dd { margin: 0; }
.sentence { font-size: 16px; line-height: 1.4; overflow-wrap: anywhere; }
.sentence .link-button { margin-left: 8px; }
.bar { display: flex; gap: 1px; height: 10px; margin-top: 12px; border-radius: 3px; overflow: hidden; }
.gets { background: var(--p-send-broadcast); }
.held { background: color-mix(in srgb, var(--p-porch-ink) var(--depth), var(--p-porch-ceiling)); min-width: 2px; }
.legend { display: flex; flex-wrap: wrap; gap: 4px 18px; padding-top: 6px; }
.legend i {
  display: inline-block; width: 8px; height: 8px; margin-right: 6px;
  background: color-mix(in srgb, var(--p-porch-ink) var(--depth), var(--p-porch-ceiling));
}
.heard { padding-top: 2px; }
@media (max-width: 760px) { .grid { grid-template-columns: minmax(0, 1fr); } }
</style>
