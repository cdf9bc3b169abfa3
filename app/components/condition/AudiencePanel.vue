<script setup lang="ts">
import { computed } from 'vue'
import type { Condition } from '#core/audience/condition'
import { HELD_BACK_WORDS } from '#core/sending/reasons'
import { sayDay, sayExactly, sayZone } from '#core/time/say'
import { useAudience } from '~/composables/useAudience'
import PeopleNumber from '~/components/PeopleNumber.vue'
import TermTip from '~/components/TermTip.vue'
import { useFrame } from '~/stores/frame'
import { sayNumber, sayPeople } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** How many a condition holds for, who of them is held back and why, five of them, and whom it shares with other segments. */
const props = defineProps<{ condition: Condition, segmentId: number | null }>()
const frame = useFrame()
const zone = computed(() => frame.zone)
const { view, more, problem, counting } = useAudience(() => props.condition, () => props.segmentId)
const change = computed(() => {
  const by = (view.value?.people ?? 0) - (more.value?.then.people ?? 0)
  return by === 0 ? 'no change in 30 days' : `${sayNumber(Math.abs(by))} ${by > 0 ? 'more' : 'fewer'} than 30 days ago`
})
const before = computed(() => {
  if (!more.value) return 'The change over 30 days is being counted.'
  const { people, at } = more.value.then
  return `${change.value}; ${people === 0 ? 'nobody' : sayPeople(people)} on ${sayDay(at, zone.value)}`
})
const held = computed(() => view.value?.heldBack.reduce((sum, one) => sum + one.people, 0) ?? 0)
const where = computed(() => JSON.stringify(props.condition))
</script>

<template>
  <section class="panel" aria-label="People who match" :aria-busy="counting">
    <div class="panel-body number-part">
      <p class="big" role="status">
        <span v-if="!view || counting" class="second">being counted</span>
        <NuxtLink v-else-if="view.people" :to="{ path: '/subscribers', query: { where } }">{{ sayPeople(view.people) }}</NuxtLink>
        <template v-else>Nobody</template>
      </p>
      <ProblemNote v-if="problem" :of="problem" line class="small" />
      <p v-else-if="view" class="second small">as of {{ sayExactly(view.at, zone) }}, {{ sayZone(zone) }}</p>
      <p v-if="view && !problem && !counting" class="small then">
        {{ before }}<span class="second caveat">The same condition counted back then, with fields, countries and time zones as they are
          now.</span>
      </p>
    </div>
    <template v-if="view && !problem">
      <div class="row">
        <p v-if="view.people">
          <strong>
            <PeopleNumber :people="view.people - held" :query="{ where, held: 'nothing' }" :words="sayPeople(view.people - held)" />
          </strong>
          could be sent something now.
        </p>
        <p v-else class="second">Nobody matches at the moment.</p>
        <p v-if="held" class="small second"><TermTip of="held-back">Held back</TermTip>, by reason:</p>
        <ul v-if="held" class="held small second">
          <li v-for="one in view.heldBack" :key="one.reason">
            <span class="n"><PeopleNumber :people="one.people" :query="{ where, held: one.reason }" /></span>
            {{ HELD_BACK_WORDS[one.reason] }}
          </li>
        </ul>
      </div>
      <div v-if="view.five.length" class="row">
        <p class="second small">{{ view.people > view.five.length ? `${view.five.length} of them, the newest` : 'These' }}</p>
        <p v-for="person in view.five" :key="person.id" class="cut">
          <NuxtLink :to="`/subscribers/${person.id}`">{{ person.name }}</NuxtLink> <span
            v-if="person.name !== person.address" class="second small">{{ person.address }}</span>
        </p>
      </div>
      <div v-if="more && more.overlap.length" class="row">
        <p class="second small">Also in other segments</p>
        <p v-for="one in more.overlap" :key="one.id" class="overlap">
          <NuxtLink :to="`/segments/${one.id}`" class="cut">{{ one.name }}</NuxtLink>
          <span class="number small">{{ sayNumber(one.both) }} of its {{ sayNumber(one.people) }}</span>
        </p>
      </div>
    </template>
  </section>
</template>

<style scoped>
.big { font: 650 27px/1.2 var(--heading); min-height: 33px; }
.number-part { border-bottom: 1px solid var(--p-porch-line-light); }
.then { padding-top: 6px; }
.caveat { display: block; }
.held { margin: 4px 0 0; padding: 0; list-style: none; }
.held .n { display: inline-block; min-width: 44px; text-align: right; font-variant-numeric: tabular-nums; padding-right: 4px; }
.overlap { display: flex; justify-content: space-between; gap: 10px; }
</style>
