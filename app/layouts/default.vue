<script setup lang="ts">
import { onMounted, ref, watch } from 'vue'
import { useTimeoutFn } from '@vueuse/core'
import { useRoute } from '#imports'
import ConfirmDialog from 'primevue/confirmdialog'
import { listenForKeys, useKeys } from '~/composables/useKeys'
import { useLanding } from '~/composables/useLanding'
import { useFrame } from '~/stores/frame'
import EndingDialog from '~/components/EndingDialog.vue'
import SaidToast from '~/components/SaidToast.vue'
import TheRail from '~/components/TheRail.vue'
import TheWall from '~/components/TheWall.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const FindDialog = whenNeeded(() => import('~/components/FindDialog.vue'))
const KeysDialog = whenNeeded(() => import('~/components/KeysDialog.vue'))

const frame = useFrame()
const route = useRoute()

const AT_REST_MS = 4000
const MOVING_MS = 300
/** While much is done on a big workspace an answer takes longer: looking must not hinder the work. */
const REST = 4
const wait = ref(AT_REST_MS)
const next = useTimeoutFn(() => void look(), wait, { immediate: false })

async function look() {
  // The server may be away for a moment: the next look finds it again.
  const before = performance.now()
  await frame.loadRail().catch(() => undefined)
  const took = performance.now() - before
  wait.value = Math.max(frame.rail?.movingTo || frame.rail?.backlog ? MOVING_MS : AT_REST_MS, Math.min(AT_REST_MS, REST * took))
  next.start()
}

function lookNow() {
  next.stop()
  void look()
}

useLanding()
listenForKeys()
const { finding, showingKeys } = useKeys()
const work = ref<HTMLElement | null>(null)
watch(() => route.path, () => work.value?.scrollTo(0, 0), { flush: 'post' })

onMounted(() => {
  void frame.loadFrame()
  lookNow()
})
// The first rail of a clock that stands still is no change: asking for it again would make every screen's start longer.
watch([() => frame.mode, () => frame.rail?.movingTo ?? null], lookNow)
</script>

<template>
  <div class="porch">
    <a class="skip" href="#work">To the page</a>
    <TheWall />
    <!-- The page makes itself anew for another address; made anew here, too, each screen would be drawn twice. -->
    <main id="work" ref="work" :key="frame.mode" class="work" tabindex="-1">
      <slot />
    </main>
    <TheRail />
    <SaidToast />
    <FindDialog v-if="finding" v-model:visible="finding" />
    <KeysDialog v-if="showingKeys" v-model:visible="showingKeys" />
    <EndingDialog />
    <ConfirmDialog :style="{ width: '460px' }" />
  </div>
</template>

<style scoped>
.porch {
  display: grid; grid-template: minmax(0, 1fr) var(--rail) / var(--wall) minmax(0, 1fr);
  grid-template-areas: 'wall work' 'wall rail'; height: 100vh;
}
.work { grid-area: work; overflow: auto; padding: 18px 28px 28px; outline: none; }
.skip { position: absolute; left: -9999px; z-index: 10; padding: 8px 14px; background: var(--p-porch-paper); }
.skip:focus { left: 8px; top: 8px; }

@media (max-width: 760px) {
  .porch { grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr); grid-template-areas: 'wall' 'work' 'rail'; }
  .work { padding: 14px 16px 24px; }
}
</style>
