<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import { PAGE_COLOURS, PAGE_TYPES, PAGE_WIDTHS, PICTURE_PLACES, type PageColour, type PageTheme } from '#core/page/theme'
import SelectField from '~/components/SelectField.vue'

/** How the page looks. Whatever is chosen can be read. */
const theme = defineModel<PageTheme>({ required: true })
const night = computed({
  get: () => theme.value.night ?? false,
  set: (on: boolean) => {
    theme.value.night = on
  },
})
const optionsOf = <Key extends string>(of: Record<Key, { name: string }>) =>
  (Object.entries(of) as [Key, { name: string }][]).map(([value, { name }]) => ({ value, name }))
const colours = Object.entries(PAGE_COLOURS) as [PageColour, typeof PAGE_COLOURS[PageColour]][]
</script>

<template>
  <div class="fields">
    <fieldset>
      <legend class="small second">Colours</legend>
      <label v-for="[key, colour] in colours" :key="key" class="swatch" :class="{ on: theme.colour === key }">
        <input v-model="theme.colour" type="radio" name="page-colour" :value="key" />
        <svg viewBox="0 0 60 40" aria-hidden="true">
          <rect width="60" height="40" :fill="colour.ground" />
          <rect x="12" y="8" width="36" height="32" :fill="colour.paper" />
          <rect x="12" y="8" width="36" height="3" :fill="colour.accent" />
          <rect x="17" y="16" width="22" height="3" :fill="colour.ink" />
          <rect x="17" y="22" width="26" height="2" :fill="colour.second" />
          <rect x="17" y="29" width="16" height="6" rx="1.5" :fill="colour.accent" />
        </svg>
        <span>{{ colour.name }}</span>
      </label>
    </fieldset>
    <SelectField v-model="theme.type" label="Letters" :options="optionsOf(PAGE_TYPES)" size="small" />
    <SelectField v-model="theme.width" label="Width of the text" :options="optionsOf(PAGE_WIDTHS)" size="small" />
    <SelectField v-model="theme.picture" label="Position of the first picture" :options="optionsOf(PICTURE_PLACES)" size="small" />
    <div class="line">
      <Checkbox v-model="night" binary input-id="page-night" />
      <label for="page-night">Dark for visitors whose device is dark</label>
    </div>
    <p class="second small">All of these keep enough contrast for people with low vision.</p>
  </div>
</template>

<style scoped>
fieldset { border: 0; margin: 0; padding: 0; display: grid; grid-template-columns: repeat(3, 1fr); gap: 8px; }
legend { padding: 0 0 4px; }
.line { display: flex; gap: 8px; align-items: center; }
.swatch {
  display: grid; gap: 2px; justify-items: center; font-size: 12.5px; cursor: pointer; padding: 4px; border: 1.5px solid transparent;
  border-radius: 6px; position: relative;
}
.swatch.on { border-color: var(--p-porch-door); }
.swatch:focus-within { outline: 2px solid var(--p-porch-focus); }
.swatch input { position: absolute; opacity: 0; inset: 0; cursor: pointer; }
svg { width: 100%; border-radius: 4px; border: 1px solid var(--p-porch-line-light); }
</style>
