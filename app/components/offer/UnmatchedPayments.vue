<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'

/** What a payment service told and we could not use. It is told again by itself for a while; what is mended meanwhile counts then. */
const frame = useFrame()
const zone = computed(() => frame.zone)
const { data: selling, load } = useFresh(() => api('GET /selling'))
async function forget(id: string) {
  await api('DELETE /unmatched-payment-events/:id', { at: { id } })
  await load()
}
</script>

<template>
  <section v-if="selling?.unmatched.length" class="panel" aria-labelledby="in-vain">
    <h2 id="in-vain">Payments that could not be matched</h2>
    <div v-for="one in selling.unmatched" :key="one.webhookId" class="row line">
      <p>
        {{ one.problem }}
        <span class="second small">
          {{ one.orderKey ? `Order ${one.orderKey}, ` : '' }}{{ sayMoment(one.lastAt, zone) }}{{ one.times > 1
            ? `, ${one.times} times since ${sayMoment(one.firstAt, zone)}` : '' }}
        </span>
      </p>
      <Button label="Seen" size="small" text severity="secondary" :aria-label="`Seen: ${one.problem}`" @click="forget(one.webhookId)" />
    </div>
  </section>
</template>

<style scoped>
.line { display: flex; justify-content: space-between; gap: 12px; align-items: baseline; }
</style>
