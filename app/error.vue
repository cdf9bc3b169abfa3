<script setup lang="ts">
import { computed } from 'vue'
import { clearError, useError } from '#imports'
import PorchMark from '~/components/PorchMark.vue'

/** An address without a screen, or a screen that broke: drawn with nothing that may not have come. */
const error = useError()
const isMissing = computed(() => error.value?.statusCode === 404)
</script>

<template>
  <main class="lost">
    <div class="panel sheet">
      <p class="brand"><span class="mark"><PorchMark /></span> Keen Porch</p>
      <h1>{{ isMissing ? 'Page not found' : 'This screen did not work' }}</h1>
      <p class="second">
        {{ isMissing
          ? 'Nothing is at this address. It may be mistyped, or what was here no longer exists.'
          : 'Something went wrong on our side. What you saved is safe.' }}
      </p>
      <div><button type="button" class="go" @click="clearError({ redirect: '/' })">Go to Today</button></div>
    </div>
  </main>
</template>

<style scoped>
.lost { min-height: 100vh; display: grid; place-items: center; padding: 24px; background: var(--p-porch-dusk); }
.sheet { width: 420px; max-width: 100%; padding: 26px 28px 28px; display: grid; gap: 14px; border-top: 6px solid var(--p-porch-lamp); }
.go {
  border: 0; border-radius: 6px; padding: 8px 14px; font: 600 inherit; color: var(--p-porch-door-text); background: var(--p-porch-door);
  cursor: pointer;
}
.go:hover { background: var(--p-porch-door-hover); }
.brand { display: flex; align-items: center; gap: 8px; font: 650 15px/1 var(--heading); }
.mark { display: grid; place-items: center; width: 34px; height: 34px; border-radius: 6px; background: var(--p-porch-dusk); }
</style>
