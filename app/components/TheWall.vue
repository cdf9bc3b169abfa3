<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo, useRoute } from '#imports'
import { api } from '~/composables/useApi'
import { useKeys } from '~/composables/useKeys'
import { useFrame } from '~/stores/frame'
import { AREAS } from '~/words/areas'
import { sayNumber } from '#core/stats/say'
import PorchMark from './PorchMark.vue'

const frame = useFrame()
const route = useRoute()
const unfolded = ref(false)
const { finding } = useKeys()

const areas = computed(() => AREAS.map(({ name, entries }) => ({
  name, entries: entries.filter(({ only }) => only === undefined || only === frame.mode)
    .map(({ to, name: said, count }) => ({ to, name: said, count: count && frame.frame?.counts[count] })),
})))

const isHere = (to: string) => to === '/' ? route.path === '/' : route.path.startsWith(to)

async function show(mode: 'practice' | 'live') {
  await frame.show(mode)
  await navigateTo('/')
  await frame.changed()
}

async function signOut() {
  await api('DELETE /session')
  await navigateTo('/sign-in')
}
</script>

<template>
  <nav class="wall" aria-label="Areas">
    <div class="brand">
      <PorchMark />
      <span>Keen Porch</span>
      <button class="seek" type="button" title="Find anything (Ctrl+K)" @click="finding = true">
        <i class="pi pi-search" aria-hidden="true" /><span class="hidden-label">Find anything</span>
      </button>
      <button class="unfold" type="button" :aria-expanded="unfolded" aria-controls="wall-entries" @click="unfolded = !unfolded">
        <i class="pi pi-bars" aria-hidden="true" /><span class="hidden-label">Areas</span>
      </button>
    </div>
    <div id="wall-entries" class="entries" :class="{ unfolded }" @click="unfolded = false">
      <div v-for="area in areas" :key="area.name ?? ''" class="area">
        <p v-if="area.name" class="area-name">{{ area.name }}</p>
        <NuxtLink
          v-for="entry in area.entries" :key="entry.to" :to="entry.to" prefetch prefetch-on="interaction" class="entry"
          :class="{ here: isHere(entry.to) }"
          :aria-current="isHere(entry.to) ? 'page' : undefined">
          <span>{{ entry.name }}</span>
          <span v-if="entry.count !== undefined" class="count">{{ sayNumber(entry.count) }}</span>
        </NuxtLink>
      </div>
      <div class="foot">
        <p class="workspace cut">{{ frame.frame?.workspace.name }}</p>
        <button v-if="frame.frame?.hasLive" type="button" class="entry" @click="show(frame.mode === 'live' ? 'practice' : 'live')">
          {{ frame.mode === 'live' ? 'Go to practice' : 'Go to live' }}
        </button>
        <NuxtLink to="/settings" prefetch prefetch-on="interaction" class="entry" :class="{ here: isHere('/settings') }">Settings</NuxtLink>
        <button type="button" class="entry" @click="signOut">Sign out</button>
      </div>
    </div>
  </nav>
</template>

<style scoped>
.wall {
  grid-area: wall; display: flex; flex-direction: column; color: var(--p-porch-dusk-text); overflow-y: auto;
  background:
    repeating-linear-gradient(transparent 0 27px, var(--p-porch-dusk-line) 27px 28px),
    var(--p-porch-dusk);
}
.brand {
  display: flex; align-items: center; gap: 9px; flex: none; height: 56px; padding: 6px 18px 0; color: #fff; white-space: nowrap;
  font: 650 17px/1 var(--heading);
}
.seek {
  display: grid; place-items: center; margin: 0 -8px 0 auto; width: 28px; height: 30px; border: 0; border-radius: 6px; background: none;
  color: var(--p-porch-dusk-second); cursor: pointer;
}
.seek:hover { background: var(--p-porch-dusk-line); color: var(--p-porch-dusk-text); }
.unfold { display: none; }
.entries { display: flex; flex-direction: column; flex: 1; }
.area-name { height: 28px; padding: 8px 18px 0; font-size: 12.5px; font-weight: 600; color: var(--p-porch-dusk-second); }
.entry {
  display: flex; align-items: center; justify-content: space-between; width: calc(100% - 10px); height: 28px; margin-left: 10px;
  padding: 0 18px 0 8px; border: 0; border-radius: 4px 0 0 4px; color: var(--p-porch-dusk-text); background: none; text-align: left;
  font-size: 14.5px; cursor: pointer;
}
.entry:hover { background: var(--p-porch-dusk-line); }
.entry.here { background: var(--p-porch-ceiling); color: var(--p-porch-ink); font-weight: 650; }
@media (prefers-color-scheme: dark) {
  .entry.here { background: color-mix(in srgb, var(--p-porch-dusk-text) 18%, var(--p-porch-ceiling)); }
}
.count { font-size: 12.5px; color: var(--p-porch-dusk-second); font-variant-numeric: tabular-nums; }
.here .count { color: var(--p-porch-ink-second); }
.foot { margin-top: auto; padding-bottom: 10px; }
.workspace { padding: 4px 18px; color: var(--p-porch-dusk-second); font-size: 12.5px; }

@media (max-width: 760px) {
  .wall { overflow: visible; }
  .unfold {
    display: grid; place-items: center; width: 36px; height: 36px; background: none; border: 0; color: inherit;
    font-size: 17px;
  }
  .entries { display: none; }
  .entries.unfolded { display: flex; }
}
</style>
