<script setup lang="ts">
import { computed, ref } from 'vue'
import type { CourseAhead } from '#core/views/course'
import { useWidth } from '~/composables/useWidth'
import { sayNumber, saySome } from '#core/stats/say'

/** The steps of a course on the line of its days, and over each the people who stand before it: heaps of dots. */
const props = defineProps<{ steps: CourseAhead['steps'], perDot: number, quiet?: boolean }>()

const [HEIGHT, LINE, DOT, MOST_ROWS] = [74, 46, 5.4, 5]
const box = ref<HTMLElement>()
const width = useWidth(box, { least: 160, before: 316 })

const WORDS: Record<string, string> = { hold: 'hold', fork: 'fork', do: 'action', jump: 'jump', end: 'end' }
const posts = computed(() => props.steps.map((step, n) => {
  const x = props.steps.length === 1 ? width.value / 2 : 24 + n * (width.value - 48) / (props.steps.length - 1)
  return {
    ...step, x, dots: heap(Math.ceil(step.people / props.perDot)),
    label: step.kind !== 'email' ? WORDS[step.kind]! : step.day === null ? 'by date' : `Day ${step.day}`,
  }
}))
/** Rows of a heap of so many dots, from the ground up, each one shorter: as wide as it must be and no wider. */
function heap(dots: number): { x: number, y: number }[] {
  let base = Math.ceil((Math.sqrt(8 * dots + 1) - 1) / 2)
  const holds = (wide: number) => Array.from({ length: MOST_ROWS }, (_, row) => Math.max(0, wide - row)).reduce((sum, n) => sum + n, 0)
  while (holds(base) < dots) base++
  const placed: { x: number, y: number }[] = []
  for (let row = 0; placed.length < dots; row++) {
    const inRow = Math.min(base - row, dots - placed.length)
    for (let n = 0; n < inRow; n++) placed.push({ x: (n - (base - row - 1) / 2) * DOT, y: LINE - 5 - row * DOT })
  }
  return placed
}
/** Days without room for their name have none. */
const every = computed(() => Math.max(1, Math.ceil(posts.value.length * 46 / width.value)))
const says = computed(() => posts.value.map(({ label, people }) => `${label}: ${saySome(people, 'person', 'people')}`).join(', '))
</script>

<template>
  <div ref="box" class="strip" :class="{ quiet }">
    <svg :width="width" :height="HEIGHT" role="img" :aria-label="`People inside by step. ${says}`">
      <line x1="0" :x2="width" :y1="LINE" :y2="LINE" :class="{ dashed: quiet }" />
      <g v-for="(post, n) in posts" :key="post.id" :transform="`translate(${post.x}, 0)`">
        <title>{{ post.label }}: {{ saySome(post.people, 'person waits here', 'people wait here') }}</title>
        <circle v-for="(dot, d) in post.dots" :key="d" :cx="dot.x" :cy="dot.y" :r="DOT / 2 - 0.4" class="person" />
        <text v-if="post.people" :y="(post.dots.at(-1)?.y ?? LINE) - 7" class="people">{{ sayNumber(post.people) }}</text>
        <circle v-if="post.kind === 'email'" :cy="LINE + 8" r="3.6" :class="post.written ? 'written' : 'empty'" />
        <rect v-else-if="post.kind === 'fork'" x="-3.5" :y="LINE + 4.5" width="7" height="7" transform-origin="0 54" class="mark turned" />
        <rect v-else x="-3.5" :y="LINE + 4.5" width="7" height="7" class="mark" />
        <text v-if="n % every === 0" :y="HEIGHT - 4" class="day">{{ post.label }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
svg { display: block; overflow: visible; }
line { stroke: var(--p-porch-rail-wood); stroke-width: 1.5; }
.dashed { stroke-dasharray: 3 4; }
.person, .written { fill: var(--p-send-course); }
.empty { fill: none; stroke: var(--p-send-course); stroke-width: 1.6; stroke-dasharray: 2 1.6; }
.mark { fill: var(--p-porch-ink-second); }
.turned { transform: rotate(45deg); transform-box: fill-box; transform-origin: center; }
.quiet .person, .quiet .written { fill: var(--p-porch-ink-third); }
text { text-anchor: middle; font: 12px var(--body); font-variant-numeric: tabular-nums; }
.people { fill: var(--p-porch-ink); }
.day { fill: var(--p-porch-ink-second); }
</style>
