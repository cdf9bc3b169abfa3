<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import MultiSelect from 'primevue/multiselect'
import type { OfferContent } from '#core/offers/offer'
import { isRenewed } from '#core/offers/price'
import type { OfferView } from '#core/views/offers'
import { useParts } from '~/composables/useParts'
import FieldGifts from '~/components/page/FieldGifts.vue'
import FileField from '~/components/FileField.vue'
import MarkPicker from '~/components/MarkPicker.vue'
import SelectField from '~/components/SelectField.vue'

/** What somebody gets who buys it, what they leave, and what is taken away again. */
const draft = defineModel<OfferContent>({ required: true })
defineProps<{ view: OfferView, lists: { id: number, name: string }[], tags: { id: number, name: string }[], make: (
  kind: 'lists' | 'tags', name: string,
) => Promise<number>, wrong: (field: string) => string | undefined }>()
const parts = useParts()
const gives = computed(() => draft.value.gives)
const courses = computed(() => parts.value.courses.map(({ id, name }) => ({ value: id, name })))
const courseId = computed({
  get: () => gives.value.courseId ?? 0,
  set: (id: number) => {
    gives.value.courseId = id || null
  },
})
const dates = computed(() =>
  [{ value: 0, name: 'none' }, ...parts.value.fields.filter(({ kind }) => kind === 'date').map(({ id, name }) => ({ value: id, name }))])
const renewalFieldId = computed({
  get: () => gives.value.renewalFieldId ?? 0,
  set: (id: number) => {
    gives.value.renewalFieldId = id || null
  },
})
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-labelledby="they-get">
      <h2 id="they-get">Buyers</h2>
      <div class="field">
        <label for="lists">joins</label>
        <MarkPicker
          v-model="draft.gives.listIds" input-id="lists" what="list" :options="lists" :invalid="!!wrong('listIds')"
          :make="name => make('lists', name)" />
        <p v-if="wrong('listIds')" class="problem">{{ wrong('listIds') }}</p>
        <p v-else class="hint">The receipt belongs to the first list.</p>
      </div>
      <div class="field">
        <label for="tags">gets</label>
        <MarkPicker v-model="draft.gives.tagIds" input-id="tags" what="tag" :options="tags" :make="name => make('tags', name)" />
      </div>
      <div class="fields two">
        <SelectField v-model="courseId" label="starts the course" :options="[{ value: 0, name: 'none' }, ...courses]">
          <p v-if="wrong('courseId')" class="problem">{{ wrong('courseId') }}</p>
          <p v-else class="hint">
            <template v-if="view.leadsTo.length">Buyers start
              <template v-for="(course, n) in view.leadsTo" :key="course.id"><template v-if="n > 0"> and
              </template><NuxtLink :to="`/courses/${course.id}`">{{ course.name }}</NuxtLink></template>.</template>
            <template v-else>No running course starts with it yet.</template>
          </p>
        </SelectField>
        <div class="field">
          <label for="ends">and leaves these courses</label>
          <MultiSelect
            v-model="draft.gives.endsCourseIds" input-id="ends" :options="courses" option-label="name" option-value="value" display="chip"
            :show-toggle-all="false" placeholder="none" />
          <p v-if="wrong('endsCourseIds')" class="problem">{{ wrong('endsCourseIds') }}</p>
          <p v-else class="hint">They leave before joining another, so that buyers get no more sales emails.</p>
        </div>
      </div>
      <div v-if="parts.fields.length" class="field">
        <span class="label">Fields</span>
        <FieldGifts v-model="draft.gives.fields" label="Buying" />
      </div>
      <SelectField v-if="isRenewed(draft.price)" v-model="renewalFieldId" label="Put the next renewal date in" :options="dates">
        <p class="hint">A date field. It moves on with each payment and is cleared once the purchase has ended.</p>
      </SelectField>
    </section>
    <section class="panel panel-body fields" aria-labelledby="the-file">
      <h2 id="the-file">File for buyers</h2>
      <FileField
        v-model="draft.gives.fileId" :known="view.file" label="A file for buyers" :wrong="wrong('file')">Buyers find it on their own page,
        which the receipt’s button opens. Up to 25 MB.</FileField>
    </section>
    <section class="panel panel-body" aria-label="When it ends">
      <span class="tick">
        <Checkbox v-model="draft.takenBack" input-id="taken-back" binary />
        <label for="taken-back"><strong>Tags and the course are removed</strong> when everything is refunded, or a subscription ends. They
          stay on their lists.</label>
      </span>
    </section>
  </div>
</template>

<style scoped>
.tick { display: flex; align-items: baseline; gap: 8px; }
</style>
