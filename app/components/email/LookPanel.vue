<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { dequal } from 'dequal'
import {
  contrastOf, DEFAULT_LOOK, LEAST_CONTRAST, LOOK_CORNERS, LOOK_FONTS, LOOK_WIDTHS, problemsOfLook, type EmailLook,
} from '#core/message/look'
import { EMAIL_TEMPLATES } from '#core/message/templates/index'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { putBack, useUndo } from '~/stores/undo'
import ProblemNote from '~/components/ProblemNote.vue'
import SelectField from '~/components/SelectField.vue'
import MiniEmail from './MiniEmail.vue'

/** How designed emails look, set once, beside one that looks so. */
const { data: kept, problem: loading } = useFresh(() => api('GET /email-look'))
const { busy, problem, attempt } = useAttempt()
const undo = useUndo()
const look = ref<EmailLook>({ ...DEFAULT_LOOK })
watch(kept, now => now && (look.value = { ...now }), { immediate: true })

const COLOURS = [
  { field: 'accent', name: 'Links and buttons' }, { field: 'ink', name: 'Words' }, { field: 'paper', name: 'Behind the words' },
  { field: 'ground', name: 'Around the email' },
] as const
const FONTS = Object.entries(LOOK_FONTS).map(([value, { name }]) => ({ value, name }))
const named = (of: Record<string, number>, words: Record<string, string>) => Object.keys(of).map(value => ({ value, name: words[value]! }))
const WIDTHS = named(LOOK_WIDTHS, { narrow: 'Narrow', usual: 'Usual', wide: 'Wide' })
const CORNERS = named(LOOK_CORNERS, { square: 'Square', soft: 'Soft', round: 'Round' })
const isColour = (text: string) => /^#[0-9a-f]{6}$/i.test(text)
const isWhole = computed(() => COLOURS.every(({ field }) => isColour(look.value[field])))
const wrong = computed(() => isWhole.value ? problemsOfLook(look.value) : [])
const contrast = computed(() => isWhole.value
  ? Math.floor(Math.min(contrastOf(look.value.ink, look.value.paper), contrastOf(look.value.accent, look.value.paper)) * 10) / 10
  : null)
const changed = computed(() => !dequal(look.value, kept.value))
const sample = EMAIL_TEMPLATES.find(({ key }) => key === 'invitation')!.content
/* What cannot be drawn is not: the last that could be stays. */
const shown = ref<EmailLook>({ ...DEFAULT_LOOK })
watch([look, isWhole], () => isWhole.value && (shown.value = { ...look.value }), { deep: true, immediate: true })

const keep = async (body: EmailLook) => {
  kept.value = await api('PUT /email-look', { body })
}
async function save() {
  const before = kept.value!
  if (!await attempt(() => keep(look.value))) return
  const after = kept.value!
  undo.did({ said: 'Emails look so from now on.', undo: () => putBack(() => api('GET /email-look'), after, () => keep(before)) })
}
</script>

<template>
  <ProblemNote :of="loading" />
  <div v-if="kept" class="look">
    <form class="panel panel-body fields" aria-label="How your emails look" @submit.prevent="save">
      <div class="colours">
        <div v-for="{ field, name } in COLOURS" :key="field" class="field">
          <label :for="`look-${field}`">{{ name }}</label>
          <span class="colour">
            <input v-model="look[field]" type="color" :aria-label="`Pick: ${name}`" />
            <InputText
              :id="`look-${field}`" v-model="look[field]" size="small" maxlength="7" class="mono" :invalid="!isColour(look[field])" />
          </span>
        </div>
      </div>
      <p class="small" role="status">
        <template v-if="contrast === null">Type colours like #20506B.</template>
        <template v-else-if="wrong.length === 0"><i class="pi pi-check" aria-hidden="true" /> Easy to read: the contrast is {{ contrast }},
          and {{ LEAST_CONTRAST }} is the least.</template>
      </p>
      <p v-for="one in wrong" :key="one.field" class="problem small" role="alert">{{ one.problem }}</p>
      <SelectField v-model="look.font" label="Letters" :options="FONTS">
        <p class="hint">Fonts that every computer and telephone has.</p>
      </SelectField>
      <div class="field">
        <span class="label">Width</span>
        <SelectButton
          v-model="look.width" :options="WIDTHS" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="Width" />
      </div>
      <div class="field">
        <span class="label">Corners</span>
        <SelectButton
          v-model="look.corners" :options="CORNERS" option-label="name" option-value="value" :allow-empty="false" size="small"
          aria-label="Corners" />
      </div>
      <ProblemNote :of="problem" />
      <p class="second small">Emails that are not sent yet get it, too. Letters look as if typed by hand, whatever you choose here.</p>
      <div class="end">
        <Button
          v-if="!dequal(look, DEFAULT_LOOK)" label="As at the beginning" severity="secondary" size="small"
          @click="look = { ...DEFAULT_LOOK }" />
        <Button type="submit" label="Use this look" :disabled="!changed || !isWhole || wrong.length > 0" :loading="busy" />
      </div>
    </form>
    <MiniEmail :content="sample" :list-id="null" kind="course" :look="shown" class="sample" />
  </div>
</template>

<style scoped>
.look { display: grid; grid-template-columns: minmax(0, 380px) minmax(0, 1fr); gap: 20px; align-items: start; }
.colours { display: grid; grid-template-columns: 1fr 1fr; gap: 10px 14px; }
.colour { display: flex; gap: 6px; align-items: center; }
.colour input[type='color'] {
  width: 34px; height: 34px; padding: 2px; border: 1px solid var(--p-porch-line); border-radius: 6px; background: none;
}
.colour :deep(.p-inputtext) { width: 100px; }
.end { display: flex; gap: 8px; justify-content: end; }
.pi-check { color: var(--p-porch-spruce); }
.sample { height: 540px; }
.sample :deep(iframe) { height: 780px; }
@media (max-width: 860px) { .look { grid-template-columns: minmax(0, 1fr); } }
</style>
