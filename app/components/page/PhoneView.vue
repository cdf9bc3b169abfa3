<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { watchDebounced } from '@vueuse/core'
import SelectButton from 'primevue/selectbutton'

/** A page of the public side as a phone shows it, beginning with what `show` finds on it. What is on it cannot be used here. */
const props = defineProps<{ html: string, title: string, show?: string, /** It can be dark, and is shown both ways. */ night?: boolean }>()
const holder = ref<HTMLIFrameElement>()
const shown = ref(props.html)
const LIGHTS = [{ value: false, name: 'Light' }, { value: true, name: 'Dark' }]
const byNight = ref(false)
/** What this computer prefers must not decide how the phone looks here. */
function light() {
  const body = holder.value?.contentDocument?.body
  body?.classList.remove('night')
  body?.classList.toggle('by-night', byNight.value && props.night === true)
}
watch([byNight, () => props.night], light)
/** Where to begin; later drawings keep the place. */
function begin() {
  const inside = holder.value?.contentDocument
  const first = props.show ? inside?.querySelector(props.show) : null
  // Asking it to come into view would move the screen around the phone, too.
  if (inside && first) inside.documentElement.scrollTop += first.getBoundingClientRect().top - 16
}
watchDebounced(() => props.html, (next) => {
  // While a page is still coming its frame has a document without anything in it.
  const root = () => holder.value?.contentDocument?.documentElement ?? null
  const top = root()?.scrollTop ?? 0
  shown.value = next
  holder.value?.addEventListener('load', () => void nextTick(() => {
    const now = root()
    if (now) now.scrollTop = top
  }), { once: true })
}, { debounce: 250 })
</script>

<template>
  <div>
    <SelectButton
      v-if="night" v-model="byNight" :options="LIGHTS" option-label="name" option-value="value" :allow-empty="false" size="small"
      aria-label="Light or dark" class="lights" />
    <div class="phone"><iframe ref="holder" :srcdoc="shown" :title="title" tabindex="-1" @load="light" @load.once="begin" /></div>
  </div>
</template>

<style scoped>
/* 390 pixels wide, as most phones are, made smaller to stand beside the page. */
.phone {
  width: 312px; height: calc(100vh - var(--rail) - 216px); min-height: 380px; border: 6px solid var(--p-porch-dusk); border-radius: 22px;
  overflow: hidden; background: var(--p-porch-paper);
}
.lights { margin-bottom: 8px; }
iframe { width: 390px; height: calc(100% / 0.77); border: 0; transform: scale(0.77); transform-origin: 0 0; }
</style>
