<script setup lang="ts">
import { computed } from 'vue'
import { sayNumber } from '#core/stats/say'
import type { BroadcastView } from '#core/views/broadcast'
import PeopleNumber from '~/components/PeopleNumber.vue'

/** How far its sending has come: a bar of its whole audience, each part with its people. */
const props = defineProps<{ id: number, view: BroadcastView, zone: string }>()
const where = (fate: string) => ({ where: JSON.stringify({
  kind: 'all',
  of: [{ kind: 'email', fate, which: { kind: 'broadcast', ownerId: props.id, itemId: null }, within: null, times: 1, url: null }],
}) })
const parts = computed(() => {
  const now = props.view.progress!
  return [
    { key: 'sent', words: 'sent', people: now.handedOver, query: where('sent') },
    { key: 'waiting', words: 'waiting', people: now.waiting, query: null },
    { key: 'held', words: 'held back', people: now.heldBack, query: where('held-back') },
    { key: 'withdrawn', words: 'withdrawn', people: now.withdrawn, query: null },
    { key: 'failed', words: 'given up', people: now.failed, query: where('given-up') },
  ].filter(({ people }) => people > 0)
})
const total = computed(() => Math.max(1, parts.value.reduce((sum, { people }) => sum + people, 0)))
</script>

<template>
  <section v-if="view.progress" aria-label="How far it has come">
    <p class="big">{{ sayNumber(view.progress.handedOver) }}</p>
    <p><PeopleNumber :people="view.progress.handedOver" :query="where('sent')" words="people were sent it" /></p>
    <div class="bar" aria-hidden="true">
      <span v-for="part in parts" :key="part.key" :class="part.key" :style="{ width: `${100 * part.people / total}%` }" />
    </div>
    <p class="legend small">
      <span v-for="part in parts" :key="part.key"><i :class="part.key" aria-hidden="true" />
        <strong>
          <PeopleNumber v-if="part.query" :people="part.people" :query="part.query" />
          <template v-else>{{ sayNumber(part.people) }}</template>
        </strong> {{ part.words }}</span>
    </p>
  </section>
</template>

<style scoped>
.big { font: 700 58px/1.05 var(--heading); letter-spacing: -0.02em; font-variant-numeric: tabular-nums; }
.bar { display: flex; gap: 1px; height: 10px; margin-top: 12px; border-radius: 3px; overflow: hidden; }
.legend { display: flex; flex-wrap: wrap; gap: 4px 18px; padding-top: 6px; }
.legend i { display: inline-block; width: 8px; height: 8px; margin-right: 2px; }
.sent { background: var(--p-send-broadcast); }
.waiting { background: color-mix(in srgb, var(--p-send-broadcast) 40%, var(--p-porch-ceiling)); }
.held, .withdrawn { background: var(--p-porch-ink-second); }
.failed { background: var(--p-porch-brick); }
</style>
