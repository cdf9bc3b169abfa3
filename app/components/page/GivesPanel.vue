<script setup lang="ts">
import { computed } from 'vue'
import Checkbox from 'primevue/checkbox'
import type { PageContent } from '#core/page/content'
import { newPromised } from '#core/page/promise'
import { newThanks } from '#core/page/thanks'
import type { PageView } from '#core/views/pages'
import { useParts } from '~/composables/useParts'
import FileField from '~/components/FileField.vue'
import MarkPicker from '~/components/MarkPicker.vue'
import SelectField from '~/components/SelectField.vue'
import FieldGifts from './FieldGifts.vue'
import EmailCard from '~/components/email/EmailCard.vue'

/** What somebody gets who opts in, and who was one of ours before. */
const draft = defineModel<PageContent>({ required: true })
defineProps<{ view: PageView, lists: { id: number, name: string }[], tags: { id: number, name: string }[], make: (
  kind: 'lists' | 'tags', name: string,
) => Promise<number>, wrong: (field: string) => string | undefined }>()
const parts = useParts()
const fileId = computed({
  get: () => draft.value.promised?.fileId ?? null,
  set: (id: number | null) => {
    if (draft.value.promised && id !== null) draft.value.promised.fileId = id
  },
})
const promise = ({ id, name }: { id: number, name: string }) => {
  draft.value.promised ??= newPromised(id, name)
}
const knowsThem = computed({
  get: () => draft.value.forKnown !== null,
  set: (on: boolean) => {
    draft.value.forKnown = on ? { tagIds: [...draft.value.tagIds], thanks: { ...newThanks(), headline: 'Welcome back' } } : null
  },
})
const courseId = computed({ get: () => draft.value.courseId ?? 0, set: (id: number) => { draft.value.courseId = id || null } })
const courses = computed(() => [{ value: 0, name: 'none' }, ...parts.value.courses.map(({ id, name }) => ({ value: id, name }))])
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-label="Lists, tags and course">
      <div class="field">
        <label for="lists">They join</label>
        <MarkPicker
          v-model="draft.listIds" input-id="lists" what="list" :options="lists" :invalid="!!wrong('listIds')"
          :make="name => make('lists', name)" />
        <p v-if="wrong('listIds')" class="problem">{{ wrong('listIds') }}</p>
      </div>
      <div class="field">
        <label for="tags">They get</label>
        <MarkPicker v-model="draft.tagIds" input-id="tags" what="tag" :options="tags" :make="name => make('tags', name)" />
        <p class="hint">
          <template v-if="view.leadsTo.length">That starts
            <template v-for="(course, n) in view.leadsTo" :key="course.id"><template v-if="n > 0"> and
            </template><NuxtLink :to="`/courses/${course.id}`">{{ course.name }}</NuxtLink></template>.</template>
          <template v-else>No running course starts with these tags yet.</template>
        </p>
      </div>
      <div v-if="parts.fields.length" class="field">
        <span class="label">Fields</span>
        <FieldGifts v-model="draft.fields" label="The page" />
        <p class="hint">A person’s own answers come before what everyone gets.</p>
      </div>
      <SelectField v-model="courseId" label="Start the course" :options="courses">
        <p class="hint">In addition to courses their tags start. A course that is not running yet adds nobody.</p>
      </SelectField>
    </section>
    <section class="panel panel-body fields" aria-labelledby="the-file">
      <h2 id="the-file">A file for them</h2>
      <p
        v-if="draft.promised && draft.promised.fileId === null">The page promises a file, and its email is written. Add the file itself.</p>
      <FileField
        v-model="fileId" :known="view.file" label="A file for them" :wrong="wrong('file')" :clearable="draft.promised !== null"
        @brought="promise" @cleared="draft.promised = null">Sent
        at once{{ draft.confirming.who === 'nobody' ? '' : ', or after they confirm' }}, in an email of its own. Its address is personal, so
        each download is counted. Up to 25 MB.</FileField>
      <EmailCard
        own v-if="draft.promised" v-model="draft.promised.mail" kind="file" :list-id="draft.listIds[0] ?? null" :problem="wrong('promised')"
      />
    </section>
    <section class="panel panel-body fields" aria-label="People you know already">
      <span class="tick"><Checkbox v-model="knowsThem" input-id="knows-them" binary />
        <label for="knows-them"><strong>People you know already</strong> get other tags and another thank-you</label></span>
      <template v-if="draft.forKnown">
        <div class="field">
          <label for="known-tags">Instead they get</label>
          <MarkPicker v-model="draft.forKnown.tagIds" input-id="known-tags" what="tag" :options="tags" :make="name => make('tags', name)" />
          <p v-if="draft.confirming.who === 'nobody'" class="hint">
            Their thank-you comes by email. The page shows everyone the same, so that nobody can find out who is on your list.
          </p>
          <p v-else class="hint">They see their thank-you after they confirm. Write it under “After the button”.</p>
        </div>
      </template>
    </section>
  </div>
</template>

<style scoped>
.tick { display: flex; align-items: center; gap: 8px; }
</style>
