<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import Button from 'primevue/button'
import { VueDraggable } from 'vue-draggable-plus'
import { freeSectionId, nameOfSection, newSection, SECTION_KINDS, SECTION_NAMES, type Section, type SectionKind } from '#core/page/section'
import type { PictureView } from '#core/page/picture'
import PopupMenu from '~/components/PopupMenu'
import SectionForm from './SectionForm.vue'

/** The sections of the page: to add, move, name, hide, copy and take out. */
const sections = defineModel<Section[]>({ required: true })
const chosen = defineModel<string | null>('chosen', { required: true })
/** `boxName`: what stands where visitors press, where it is no form. */
const props = defineProps<{ pictures: PictureView[], problems: { field: string, problem: string }[], boxName?: string }>()
const emit = defineEmits<{ show: [id: string], picture: [picture: PictureView] }>()

const nameOf = (section: Section) =>
  section.kind === 'form' && section.name.trim() === '' && props.boxName ? props.boxName : nameOfSection(section)
const adding = ref<InstanceType<typeof PopupMenu>>()
const kinds = computed(() => SECTION_KINDS.filter(kind => kind !== 'form' || !sections.value.some(section => section.kind === 'form'))
  .map(kind => ({ label: kind === 'form' ? props.boxName ?? SECTION_NAMES.form : SECTION_NAMES[kind], command: () => add(kind) })))
const at = computed(() => sections.value.findIndex(({ id }) => id === chosen.value))

async function put(section: Section, place: number) {
  sections.value.splice(place, 0, section)
  chosen.value = section.id
  await nextTick()
  emit('show', section.id)
}
/** After the chosen one; else before the footer, or at the end. */
function add(kind: SectionKind) {
  const footer = sections.value.findIndex(section => section.kind === 'footer')
  const place = at.value >= 0 ? at.value + 1 : footer >= 0 && kind !== 'footer' ? footer : sections.value.length
  void put(newSection(kind, freeSectionId(sections.value)), place)
}
function move(id: string, by: -1 | 1) {
  const from = sections.value.findIndex(section => section.id === id)
  const [section] = sections.value.splice(from, 1)
  sections.value.splice(from + by, 0, section!)
}
function copy(section: Section, place: number) {
  void put({
    ...JSON.parse(JSON.stringify(section)) as Section, id: freeSectionId(sections.value), name: section.name && `${section.name}, copied`,
  }, place + 1)
}
const gone = ref<{ section: Section, place: number } | null>(null)
function remove(section: Section, place: number) {
  sections.value.splice(place, 1)
  gone.value = { section, place }
  if (chosen.value === section.id) chosen.value = null
}
function bringBack() {
  const { section, place } = gone.value!
  gone.value = null
  void put(section, Math.min(place, sections.value.length))
}
function choose(id: string) {
  chosen.value = chosen.value === id ? null : id
  if (chosen.value) emit('show', id)
}
</script>

<template>
  <div class="list">
    <Button
      label="Add a section" icon="pi pi-plus" severity="secondary" size="small" aria-haspopup="true" @click="event => adding!.toggle(event)"
    />
    <PopupMenu ref="adding" :model="kinds" popup />
    <p v-if="gone" class="note small back">
      {{ nameOf(gone.section) }} was removed. <button type="button" class="link-button" @click="bringBack">Undo</button>
    </p>
    <VueDraggable v-model="sections" tag="ul" handle=".grip" :animation="120">
      <li v-for="(section, place) in sections" :key="section.id" :class="{ chosen: section.id === chosen }">
        <div class="line">
          <i class="pi pi-bars grip" aria-hidden="true" title="Drag to move" />
          <button type="button" class="name cut" :aria-expanded="section.id === chosen" @click="choose(section.id)">
            {{ nameOf(section) }}<span v-if="section.hidden" class="second small"> hidden</span>
          </button>
          <i v-if="problems.some(({ field }) => field === section.id)" class="pi pi-exclamation-circle wanting"
             title="Something is still missing here" role="img" aria-label="something is still missing" />
          <Button
            :icon="section.hidden ? 'pi pi-eye-slash' : 'pi pi-eye'" text size="small" severity="secondary"
            :aria-label="`${section.hidden ? 'Show' : 'Hide'} ${nameOf(section)}`" :title="section.hidden ? 'Show it' : 'Hide it'"
            @click="section.hidden = !section.hidden" />
        </div>
        <div v-if="section.id === chosen" class="more">
          <div class="acts">
            <Button
              icon="pi pi-arrow-up" size="small" severity="secondary" :aria-label="`Move ${nameOf(section)} up`" title="Move up"
              :disabled="place === 0" @click="move(section.id, -1)" />
            <Button
              icon="pi pi-arrow-down" size="small" severity="secondary" :aria-label="`Move ${nameOf(section)} down`" title="Move down"
              :disabled="place === sections.length - 1" @click="move(section.id, 1)" />
            <Button
              v-if="section.kind !== 'form'" icon="pi pi-copy" size="small" severity="secondary" :aria-label="`Copy ${nameOf(section)}`"
              title="Copy" @click="copy(section, place)" />
            <Button
              icon="pi pi-trash" size="small" severity="secondary" :aria-label="`Remove ${nameOf(section)}`" title="Take out"
              @click="remove(section, place)" />
          </div>
          <p v-for="{ problem } in problems.filter(({ field }) => field === section.id)" :key="problem" class="problem small" role="alert">
            {{ problem }}
          </p>
          <SectionForm v-model="sections[place]!" :pictures="pictures" @picture="picture => emit('picture', picture)" />
        </div>
      </li>
    </VueDraggable>
  </div>
</template>

<style scoped>
.list { display: grid; gap: 8px; justify-items: start; }
ul { list-style: none; margin: 0; padding: 0; width: 100%; }
li { border-bottom: 1px solid var(--p-porch-line-light); }
li.chosen { background: var(--p-porch-rail); }
.line { display: flex; align-items: center; gap: 2px; min-height: 36px; }
.grip { cursor: grab; color: var(--p-porch-ink-third); padding: 8px 6px; font-size: 12px; }
.name { flex: 1; min-width: 0; text-align: left; border: 0; background: none; color: inherit; padding: 7px 2px; cursor: pointer; }
.chosen .name { font-weight: 600; }
.more { display: grid; gap: 10px; padding: 2px 8px 12px; }
.acts { display: flex; gap: 4px; }
.wanting { color: var(--p-porch-brick); }
.back { width: 100%; }
</style>
