<script setup lang="ts">
import { useId } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { SECTION_NAMES, type Section } from '#core/page/section'
import { paragraphs } from '#core/page/text'
import type { PictureView } from '#core/page/picture'
import { sayZone } from '#core/time/say'
import { addDays, localOf } from '#core/time/zone'
import { useFrame } from '~/stores/frame'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'
import PictureField from './PictureField.vue'

/** What a section has besides the texts that are written on the page itself. */
const section = defineModel<Section>({ required: true })
defineProps<{ pictures: PictureView[] }>()
const emit = defineEmits<{ picture: [picture: PictureView] }>()
const id = useId()
const frame = useFrame()
const zone = () => frame.zone
/** A week from now, to be changed. */
function beginDate() {
  if (section.value.kind === 'countdown') section.value.date = addDays(localOf(frame.now, zone()).date, 7)
}
</script>

<template>
  <div class="fields">
    <div class="field">
      <label :for="`${id}-name`">Name (only you see it)</label>
      <InputText :id="`${id}-name`" v-model="section.name" size="small" maxlength="60" :placeholder="SECTION_NAMES[section.kind]" />
    </div>
    <template v-if="section.kind === 'picture'">
      <PictureField v-model="section.pictureId" :pictures="pictures" label="The picture" @picture="picture => emit('picture', picture)" />
      <div class="field">
        <label :for="`${id}-alt`">Description for people who cannot see it</label>
        <InputText :id="`${id}-alt`" v-model="section.alt" size="small" maxlength="300" :disabled="section.decorates" />
      </div>
      <span class="tick">
        <Checkbox v-model="section.decorates" :input-id="`${id}-decorates`" binary />
        <label :for="`${id}-decorates`">Decoration only</label>
      </span>
    </template>
    <template v-else-if="section.kind === 'countdown'">
      <div class="field">
        <label :for="`${id}-date`">Counts to</label>
        <span class="when">
          <DateField v-if="section.date !== null" v-model="section.date" :input-id="`${id}-date`" size="small" />
          <Button v-else :id="`${id}-date`" label="Choose a date" size="small" severity="secondary" @click="beginDate" />
          <TimeField v-model="section.time" label="Time of day" size="small" />
        </span>
      </div>
      <p class="second small">{{ sayZone(zone()) }}. Visitors without scripts see the date.</p>
    </template>
    <template v-else-if="section.kind === 'questions'">
      <p v-for="(one, n) in section.questions" :key="n" class="one">
        <span class="cut">{{ one.question || `Question ${n + 1}` }}</span>
        <Button
          icon="pi pi-trash" text size="small" severity="secondary" :aria-label="`Remove the question ${one.question}`"
          @click="section.questions.splice(n, 1)" />
      </p>
      <Button
        label="Add a question" icon="pi pi-plus" size="small" severity="secondary"
        @click="section.questions.push({ question: 'Another question?', answer: paragraphs('Its answer.') })" />
    </template>
  </div>
</template>

<style scoped>
.tick { display: inline-flex; align-items: center; gap: 8px; }
.when { display: flex; gap: 6px; align-items: center; }
.one { display: flex; justify-content: space-between; align-items: center; gap: 6px; }
.fields { gap: 10px; }
</style>
