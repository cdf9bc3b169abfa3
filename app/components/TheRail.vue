<script setup lang="ts">
import { kindOf } from '#core/sending/kinds'
import { navigateTo } from '#imports'
import { computed, ref, watch } from 'vue'
import { scaleLinear, scaleSqrt } from 'd3'
import Dialog from '~/components/DialogBox'
import Button from 'primevue/button'
import { sayDay, sayMoment, sayTime, sayZone } from '#core/time/say'
import { DAY, addDays, instantOf, localOf } from '#core/time/zone'
import { useWidth } from '~/composables/useWidth'
import { api, ApiProblem } from '~/composables/useApi'
import { useFrame } from '~/stores/frame'
import { sayPeople } from '#core/stats/say'
import DateField from './DateField.vue'
import TimeField from './TimeField.vue'
import { colourOfSend } from '~/theme/sends'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const rail = computed(() => frame.rail)
const zone = computed(() => rail.value?.zone ?? 'UTC')
const practice = computed(() => frame.mode === 'practice')

/* The strip */

const HEIGHT = 86
const GROUND = 60
const TALLEST = 38
const strip = ref<HTMLElement>()
const width = useWidth(strip, { least: 200, before: 784 })

const x = computed(() => {
  const now = rail.value?.now ?? 0
  return scaleLinear().domain([now, now + 7 * DAY]).range([14, width.value - 14])
})

const days = computed(() => {
  if (!rail.value) return []
  const { now } = rail.value
  const first = localOf(now, zone.value).date
  return Array.from({ length: 9 }, (_, n) => {
    const from = instantOf(addDays(first, n), '00:00', zone.value)
    const left = x.value(Math.max(from, now))
    const right = x.value(Math.min(instantOf(addDays(first, n + 1), '00:00', zone.value), now + 7 * DAY))
    return { from, line: from > now, left, right }
  }).filter(day => day.right - day.left > 1).map(day => ({ ...day, name: day.right - day.left > 52 ? sayDay(day.from, zone.value) : '' }))
})

const posts = computed(() => {
  const list = rail.value?.posts ?? []
  const most = Math.max(10, ...list.map(post => post.people))
  const tall = scaleSqrt().domain([0, most]).range([6, TALLEST])
  return list.map(post => ({
    ...post, x: x.value(post.at), top: GROUND - tall(post.people),
    says: `${sayMoment(post.at, zone.value)}: ${post.of}, ${post.title}, ${sayPeople(post.people)}`,
  }))
})

/** One of them is in the order of the keys; arrows lead from one to the next. */
const atPost = ref(0)
const read = ref<number | null>(null)
const shownPost = computed(() => read.value === null ? undefined : posts.value[read.value])
/** What is said of a post stands to the side that has room. */
const placeOf = (at: number) => at > width.value / 2 ? { right: `${width.value - at}px` } : { left: `${at}px` }
watch(posts, list => atPost.value = Math.min(atPost.value, Math.max(0, list.length - 1)))

function step(event: KeyboardEvent) {
  const last = posts.value.length - 1
  const to = { ArrowRight: atPost.value + 1, ArrowLeft: atPost.value - 1, Home: 0, End: last }[event.key]
  if (to === undefined) return
  event.preventDefault()
  atPost.value = Math.max(0, Math.min(last, to))
  strip.value?.querySelectorAll<SVGGElement>('.post')[atPost.value]?.focus()
}

/* The clock */

const problem = ref<string | null>(null)
const choosing = ref(false)
const date = ref('')
const time = ref('08:00')
const moving = computed(() => rail.value?.movingTo ?? null)
/** From the click on until the answer is there: nothing else moves the clock, and no late answer closes what was opened since. */
const asking = ref(false)

/** Returns whether the clock moves now. */
async function move(how: { by: 'next-send' | 'hour' | 'day' } | { by: 'to', at: number }) {
  problem.value = null
  asking.value = true
  try {
    await api('POST /clock', { body: how })
    await frame.loadRail()
    return true
  }
  catch (error) {
    problem.value = error instanceof ApiProblem ? error.of('at') ?? error.message : String(error)
    return false
  }
  finally {
    asking.value = false
  }
}

function choose() {
  problem.value = null
  date.value = addDays(localOf(rail.value!.now, zone.value).date, 1)
  choosing.value = true
}

async function moveToChosen() {
  if (await move({ by: 'to', at: instantOf(date.value, time.value, zone.value) })) choosing.value = false
}
</script>

<template>
  <aside class="rail" aria-label="The clock and the coming seven days">
    <div v-if="rail" class="clock">
      <p class="now">
        {{ sayMoment(rail.now, zone) }}
        <span class="chip" :class="practice ? 'lamp' : 'spruce'">{{ practice ? 'practice' : 'live' }}</span>
      </p>
      <p class="second small" role="status">
        <template v-if="moving">Moving the clock to {{ sayMoment(moving, zone) }}</template>
        <template v-else-if="asking">Moving the clock</template>
        <template v-else-if="problem && !choosing"><span class="problem">{{ problem }}</span></template>
        <template v-else>{{ sayZone(zone) }}{{ practice ? ', stands still until you move it' : '' }}</template>
      </p>
      <p v-if="practice" class="moves">
        <button type="button" class="link-button" :disabled="asking || !!moving" @click="move({ by: 'next-send' })">To next send</button>
        <button type="button" class="link-button" :disabled="asking || !!moving" @click="move({ by: 'hour' })">+1 hour</button>
        <button type="button" class="link-button" :disabled="asking || !!moving" @click="move({ by: 'day' })">+1 day</button>
        <button type="button" class="link-button" :disabled="asking || !!moving" @click="choose">To a date</button>
      </p>
    </div>
    <div ref="strip" class="strip">
      <svg
        v-if="rail" :width="width" :height="HEIGHT" :role="posts.length ? 'group' : 'img'"
        :aria-label="rail.posts === null ? 'The coming sends could not be worked out' : posts.length
          ? `${posts.length} sends in the coming seven days` : 'Nothing goes out in the coming seven days'">
        <g v-for="day in days" :key="day.from">
          <line v-if="day.line" :x1="day.left" :x2="day.left" y1="14" :y2="GROUND" class="midnight" />
          <text :x="(day.left + day.right) / 2" :y="GROUND + 18" class="day">{{ day.name }}</text>
        </g>
        <line x1="0" :x2="width" :y1="GROUND" :y2="GROUND" class="ground" />
        <g
          v-for="(post, n) in posts" :key="`${post.kind} ${post.ownerId} ${post.itemId} ${post.at}`" class="post"
          :class="kindOf(post.kind).sign.shape"
          :style="{ '--send': colourOfSend(post.kind) }" role="link" :tabindex="n === atPost ? 0 : -1" :aria-label="post.says"
          @focus="atPost = read = n" @blur="read = null" @mouseenter="read = n" @mouseleave="read = null" @keydown="step"
          @keydown.enter="post.to && navigateTo(post.to)" @click="post.to && navigateTo(post.to)">
          <rect :x="post.x - 12" :y="post.top - 12" width="24" :height="GROUND - post.top + 12" class="reach" />
          <rect :x="post.x - 2.5" :y="post.top" width="5" :height="GROUND - post.top" />
          <rect
            v-if="kindOf(post.kind).sign.shape === 'square'" :x="post.x - 4.5" :y="post.top - 4.5" width="9" height="9" class="mark" />
          <circle v-else :cx="post.x" :cy="post.top" r="4.5" class="mark" />
        </g>
        <line :x1="x(rail.now)" :x2="x(rail.now)" y1="10" :y2="GROUND" class="lamp-post" />
        <circle :cx="x(rail.now)" cy="9" r="5" class="lamp" />
        <text v-if="posts.length === 0" :x="width / 2" :y="GROUND - 18" class="day">
          {{ rail.posts === null
            ? 'The coming sends could not be worked out. The log says why; the clock still works.'
            : 'Nothing goes out in the coming seven days.' }}
        </text>
      </svg>
      <p v-if="shownPost" class="says" :style="placeOf(shownPost.x)" aria-hidden="true">{{ shownPost.says }}</p>
    </div>

    <Dialog v-model:visible="choosing" modal header="Move the practice clock to" :style="{ width: '400px' }">
      <form class="fields two" @submit.prevent="moveToChosen">
        <div class="field"><label for="clock-date">Date</label><DateField v-model="date" input-id="clock-date" /></div>
        <div class="field"><label for="clock-time">Time, {{ sayZone(zone) }}</label><TimeField v-model="time" input-id="clock-time" /></div>
        <ProblemNote :of="problem" line class="wide" />
        <p class="second small wide">Everything due until then happens in order, each at its own time. It is now
          {{ rail && sayTime(rail.now, zone) }}; the clock only goes forward.</p>
        <div class="wide end"><Button type="submit" label="Move the clock" :loading="asking" /></div>
      </form>
    </Dialog>
  </aside>
</template>

<style scoped>
.rail { grid-area: rail; display: flex; background: var(--p-porch-rail); border-top: 1px solid var(--p-porch-line); min-width: 0; }
.clock { flex: none; width: 300px; padding: 10px 14px 0 28px; border-right: 1px solid var(--p-porch-line); }
.now { font: 650 16px/1.3 var(--heading); font-variant-numeric: tabular-nums; }
.now .chip { font: 600 12.5px/1.5 var(--body); vertical-align: 1px; }
.moves { display: flex; gap: 13px; font-size: 13px; }
.strip { flex: 1; min-width: 0; position: relative; }
.strip svg { display: block; overflow: hidden; }
.says {
  position: absolute; bottom: 100%; margin: 0 0 6px; padding: 4px 8px; max-width: 50%; white-space: nowrap; overflow: hidden;
  text-overflow: ellipsis;
  background: var(--p-porch-ink); color: var(--p-porch-paper); border-radius: 6px; font-size: 13px; pointer-events: none; z-index: 5;
}
.reach { fill: transparent; }
.midnight { stroke: var(--p-porch-line); stroke-width: 1; }
.ground { stroke: var(--p-porch-rail-wood); stroke-width: 2; }
.day { font-size: 12px; fill: var(--p-porch-ink-second); text-anchor: middle; }
.post { fill: var(--send); cursor: pointer; outline: none; }
.post:focus-visible .mark { stroke: var(--p-porch-focus); stroke-width: 3; r: 6px; }
.post.ring circle { fill: var(--p-porch-paper); stroke: var(--send); stroke-width: 2; }
.lamp-post { stroke: var(--p-porch-lamp); stroke-width: 3; }
.lamp { fill: var(--p-porch-lamp); }
.wide { grid-column: 1 / -1; }
.end { text-align: right; }
@media (max-width: 760px) { .strip { display: none; } .clock { width: 100%; border: 0; padding: 8px 16px; } }
</style>
