<script setup lang="ts">
import { ref } from 'vue'
import { sayMoment } from '#core/time/say'
import type { ChainView, FiringLine } from '#core/views/rules'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import ChainLines from './ChainLines.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** The last times a rule acted, on whom, and all that came of each. */
defineProps<{ firings: FiringLine[] }>()
const frame = useFrame()
const open = ref<number | null>(null)
const chain = ref<ChainView | null>(null)
const { problem, attempt } = useAttempt()

async function toggle(id: number) {
  chain.value = null
  open.value = open.value === id ? null : id
  if (open.value === id) await attempt(async () => {
    const answer = await api('GET /rules/chain', { query: { firing: id } })
    if (open.value === id) chain.value = answer
  })
}
</script>

<template>
  <section class="panel" aria-labelledby="firings">
    <h2 id="firings">Recent activity of this rule</h2>
    <p v-if="!firings.length" class="panel-body second">It has not acted yet.</p>
    <div v-for="firing in firings" :key="firing.id" class="row">
      <div class="head">
        <NuxtLink :to="`/subscribers/${firing.person.id}`" class="who">{{ firing.person.name }}</NuxtLink>
        <span>{{ firing.woke }}</span>
        <span class="second small at">{{ sayMoment(firing.at, frame.zone) }}</span>
      </div>
      <p class="small second">
        <template v-if="!firing.changed">Nothing changed: </template>{{ firing.did.join('; ') }}<template v-if="firing.cut">. Woken again
          {{ firing.cut === 1 ? 'once' : `${firing.cut} times` }} by the same event, and stopped there</template>.
        <button
          type="button" class="link-button small" :aria-expanded="open === firing.id"
          :aria-label="`Everything that followed for ${firing.person.name}`" @click="toggle(firing.id)">{{ open === firing.id
            ? 'Close' : 'Everything that followed' }}</button>
      </p>
      <ProblemNote v-if="open === firing.id" :of="problem" />
      <ChainLines v-if="open === firing.id && chain" :lines="chain.lines" class="chain" />
    </div>
  </section>
</template>

<style scoped>
.head { display: flex; gap: 8px; align-items: baseline; flex-wrap: wrap; }
.who { font-weight: 600; }
.at { margin-left: auto; white-space: nowrap; }
.chain { padding-top: 8px; }
</style>
