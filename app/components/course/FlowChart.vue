<script setup lang="ts">
import { computed, ref } from 'vue'
import { sankey, sankeyJustify, sankeyLinkHorizontal } from 'd3-sankey'
import type { CourseNumbersView, FlowLink, JourneyEnd } from '#core/views/courseNumbers'
import { useWidth } from '~/composables/useWidth'
import { sayPeople } from '#core/stats/say'

/** The way of people through a course: from joining, email by email, to where they are now. */
const props = defineProps<{ view: CourseNumbersView }>()
const emit = defineEmits<{ who: [after: string | null, end: JourneyEnd, words: string] }>()

const box = ref<HTMLElement>()
const width = useWidth(box, { least: 520, before: 900 })

const ENDS: Record<JourneyEnd, string> = { inside: 'inside now', finished: 'finished', left: 'left' }
interface Node { id: string, name: string, end: JourneyEnd | null }
interface Link { source: string, target: string, value: number, of: FlowLink }
const idOf = (to: FlowLink['to']) => 'end' in to ? `end:${to.end}` : `step:${to.stepId}`
const sourceOf = (from: string | null) => from === null ? 'entry' : `step:${from}`

/** Only forward: who was sent an earlier email again is not drawn back. */
const drawn = computed(() => {
  const order = new Map<string, number>([
    ['entry', -1], ...props.view.emails.map(({ stepId }, n): [string, number] => [`step:${stepId}`, n]),
  ])
  const links = props.view.flow.map((of): Link => ({ source: sourceOf(of.from), target: idOf(of.to), value: of.people, of }))
    .filter(({ source, target }) => target.startsWith('end:') || (order.get(source) ?? -1) < (order.get(target) ?? -1))
  const used = new Set(links.flatMap(({ source, target }) => [source, target]))
  const nodes: Node[] = [
    { id: 'entry', name: 'came in', end: null }, ...props.view.emails.map(({ stepId, title }) => ({
      id: `step:${stepId}`, name: title, end: null,
    })), ...(Object.keys(ENDS) as JourneyEnd[]).map(end => ({ id: `end:${end}`, name: ENDS[end], end })),
  ].filter(({ id }) => used.has(id))
  if (links.length === 0) return null
  const height = Math.max(240, Math.min(480, 68 * Math.max(3, nodes.length / 2)))
  const lay = sankey<Node, Link>().nodeId(node => node.id).nodeAlign(sankeyJustify).nodeWidth(12).nodePadding(34)
    .extent([[4, 14], [width.value - 130, height - 24]])
  return { height, ...lay({ nodes: nodes.map(node => ({ ...node })), links: links.map(link => ({ ...link })) }) }
})
/** As much of a name as fits before the next post. */
const room = computed(() => {
  const columns = new Set(drawn.value?.nodes.map(({ x0 }) => x0)).size
  return Math.max(8, Math.floor((width.value - 130) / Math.max(1, columns - 1) / 7.4))
})
const short = (name: string) => name.length > room.value ? `${name.slice(0, room.value - 1).trimEnd()}…` : name
const path = sankeyLinkHorizontal<Node, Link>()
const nameOf = (node: unknown) => (node as Node).name
const sayLink = (link: { source: unknown, target: unknown, value: number }) =>
  `${sayPeople(link.value)} from ${nameOf(link.source)} to ${nameOf(link.target)}`
function open(of: FlowLink) {
  if ('end' in of.to) emit(
    'who', of.from, of.to.end,
    `${ENDS[of.to.end]}${of.from === null ? ', before any email' : `, after “${props.view.emails.find(({ stepId }) => stepId === of.from)?.title}”`}`,
  )
}
</script>

<template>
  <div ref="box" class="box">
    <p v-if="!drawn" class="second">Nobody has joined yet.</p>
    <svg v-else :width="width" :height="drawn.height" role="group" aria-label="How people move through this course">
      <g v-for="(link, n) in drawn.links" :key="n">
        <path
          :d="path(link) ?? ''" :stroke-width="Math.max(1, link.width ?? 1)" class="link"
          :class="[('end' in link.of.to) && link.of.to.end, ('end' in link.of.to) && 'opens']"
          :tabindex="'end' in link.of.to ? 0 : undefined" :role="'end' in link.of.to ? 'button' : 'img'" :aria-label="sayLink(link)"
          @click="open(link.of)" @keydown.enter="open(link.of)"
        ><title>{{ sayLink(link) }}</title></path>
      </g>
      <g v-for="node in drawn.nodes" :key="node.id">
        <rect
          :x="node.x0" :y="node.y0" :width="(node.x1 ?? 0) - (node.x0 ?? 0)" :height="Math.max(1, (node.y1 ?? 0) - (node.y0 ?? 0))"
          class="node" :class="node.end ?? ''" />
        <text :x="(node.x1 ?? 0) + 5" :y="((node.y0 ?? 0) + (node.y1 ?? 0)) / 2 - 2" class="name">{{ short(node.name) }}</text>
        <text :x="(node.x1 ?? 0) + 5" :y="((node.y0 ?? 0) + (node.y1 ?? 0)) / 2 + 12" class="count">{{ sayPeople(node.value ?? 0) }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.box { overflow-x: auto; }
.link { fill: none; stroke: var(--p-send-course); stroke-opacity: 0.28; }
.link.left { stroke: var(--p-porch-brick); }
.link.inside { stroke: var(--p-porch-lamp); }
.link.opens { cursor: pointer; }
.link:hover, .link:focus-visible { stroke-opacity: 0.6; outline: none; }
.node { fill: var(--p-send-course); }
.node.left { fill: var(--p-porch-brick); }
.node.inside { fill: var(--p-porch-lamp); }
/* Read over whatever flows behind them. */
.name, .count { paint-order: stroke; stroke: var(--p-porch-paper); stroke-opacity: 0.85; stroke-width: 4px; stroke-linejoin: round; }
.name { font: 600 12.5px var(--body); fill: var(--p-porch-ink); }
.count { font: 12px var(--body); fill: var(--p-porch-ink-second); }
</style>
