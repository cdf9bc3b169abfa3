<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { navigateTo } from '#imports'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { fold } from '#core/audience/condition'
import { fitOf } from '#core/fit'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import { useFrame } from '~/stores/frame'
import { choiceOfFound, fixedChoices, type Choice } from '~/words/finding'

/** Finds any page, person, course, tag, setting or action by a part of its name, and goes there. */
const visible = defineModel<boolean>('visible', { required: true })
const frame = useFrame()

/** So few of what is always there stand before anything is typed. */
const MOST_FIXED = 8
const text = ref('')
const found = ref<Choice[]>([])
const problem = ref(false)
const chosen = ref(0)
const list = ref<HTMLElement>()

const fixed = computed(() => {
  const sought = fold(text.value.trim())
  const all = fixedChoices(frame.mode)
  if (sought === '') return all.slice(0, MOST_FIXED)
  const fits = all.flatMap((choice) => {
    const fit = fitOf(fold(choice.name), sought) ?? (fitOf(fold(choice.also), sought) === null ? null : 4)
    return fit === null ? [] : [{ choice, fit }]
  })
  return fits.sort((a, b) => a.fit - b.fit).slice(0, MOST_FIXED).map(({ choice }) => choice)
})
const choices = computed(() => [...fixed.value, ...found.value])
watch(choices, () => chosen.value = 0)

const newest = useNewest()
watchDebounced(text, async (asked) => {
  const isNewest = newest()
  try {
    const answer = asked.trim() === '' ? [] : await api('GET /find', { query: { text: asked }, asker: `find-${performance.timeOrigin}` })
    if (!isNewest()) return
    found.value = answer.map(choiceOfFound)
    problem.value = false
  }
  catch {
    if (isNewest()) problem.value = true
  }
}, { debounce: 120 })

async function move(by: number) {
  const count = choices.value.length
  if (count) chosen.value = (chosen.value + by + count) % count
  await nextTick()
  list.value?.children[chosen.value]?.scrollIntoView({ block: 'nearest' })
}
async function go(choice: Choice | undefined) {
  if (!choice) return
  visible.value = false
  await navigateTo(choice.to)
}
</script>

<template>
  <Dialog
    v-model:visible="visible" modal :show-header="false" position="top" :style="{ width: '620px' }" dismissable-mask
    :pt="{ root: { 'aria-label': 'Find anything' } }">
    <div class="find">
      <InputText
        v-model="text" autofocus role="combobox" aria-expanded="true" aria-controls="find-choices" aria-autocomplete="list"
        :aria-activedescendant="choices.length ? `find-${chosen}` : undefined" aria-label="Find anything" maxlength="200"
        placeholder="A page, person, course, tag, setting, or something to do" @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)" @keydown.enter.prevent="go(choices[chosen])" />
      <ul id="find-choices" ref="list" role="listbox" aria-label="What fits">
        <li
          v-for="(choice, n) in choices" :id="`find-${n}`" :key="`${choice.sort} ${choice.to} ${choice.name}`" role="option"
          :aria-selected="n === chosen" @click="go(choice)" @pointermove="chosen = n">
          <i :class="choice.icon" aria-hidden="true" />
          <span class="cut"><strong>{{ choice.name }}</strong> <span class="second small">{{ choice.more }}</span></span>
          <span class="second small">{{ choice.sort }}</span>
        </li>
      </ul>
      <p v-if="problem" class="problem small" role="alert">What you made could not be searched. Try again in a moment.</p>
      <p v-else-if="!choices.length" class="second">Nothing has “{{ text }}” in its name.</p>
    </div>
  </Dialog>
</template>

<style scoped>
.find { display: grid; gap: 10px; padding-top: 18px; }
ul { margin: 0; padding: 0; list-style: none; max-height: min(420px, 60vh); overflow: auto; }
li {
  display: grid; grid-template-columns: 18px minmax(0, 1fr) auto; gap: 10px; align-items: baseline; padding: 7px 10px; border-radius: 6px;
  cursor: pointer;
}
li[aria-selected='true'] { background: var(--p-porch-rail); box-shadow: inset 3px 0 0 var(--p-porch-lamp); }
.pi { font-size: 13px; color: var(--p-porch-ink-second); }
</style>
