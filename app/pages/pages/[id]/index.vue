<script setup lang="ts">
import AstrayNotes from '~/components/AstrayNotes.vue'
import { computed, ref } from 'vue'
import { navigateTo, useRoute } from '#imports'
import Button from 'primevue/button'
import SelectButton from 'primevue/selectbutton'
import type { PageContent } from '#core/page/content'
import type { Mark } from '#core/page/editing'
import { formHtml } from '#core/page/formHtml'
import { renderOptIn, renderThanks, renderWait } from '#core/page/render'
import { endingOf } from '#core/page/cameTo'
import { NO_TOUCH } from '#core/page/touch'
import type { PageView } from '#core/views/pages'
import { ownsEmails } from '~/composables/emailOwner'
import { api } from '~/composables/useApi'
import { useAddress } from '~/composables/useAddress'
import { PAGE_SIDES, usePageSide } from '~/composables/usePageSide'
import { usePublished } from '~/composables/usePublished'
import { useMarks } from '~/composables/useMarks'
import { provideParts } from '~/composables/useParts'
import { useEnding } from '~/stores/ending'
import { useFrame } from '~/stores/frame'
import { saySome } from '#core/stats/say'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import PartTabs from '~/components/PartTabs.vue'
import SaveNote from '~/components/SaveNote.vue'
import ThemePanel from '~/components/page/ThemePanel.vue'
import PageCanvas from '~/components/page/PageCanvas.vue'
import PhoneView from '~/components/page/PhoneView.vue'
import SectionList from '~/components/page/SectionList.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const AddressPanel = whenNeeded(() => import('~/components/page/AddressPanel.vue'))
const AfterPanel = whenNeeded(() => import('~/components/page/AfterPanel.vue'))
const EmbedPanel = whenNeeded(() => import('~/components/page/EmbedPanel.vue'))
const FormPanel = whenNeeded(() => import('~/components/page/FormPanel.vue'))
const GivesPanel = whenNeeded(() => import('~/components/page/GivesPanel.vue'))
const YesPanel = whenNeeded(() => import('~/components/page/YesPanel.vue'))
const RulesBeside = whenNeeded(() => import('~/components/rule/RulesBeside.vue'))

const id = Number(useRoute().params.id)
ownsEmails(ref({ kind: 'page', id }))
const frame = useFrame()
const { lists, tags, make } = useMarks()
const { parts } = provideParts()
const { values, set } = useAddress({ part: 'page' })

/** In the order in which a visitor comes to them. */
const PARTS = [
  { value: 'page', name: 'The page' }, { value: 'form', name: 'The form' }, { value: 'yes', name: 'Confirmation' },
  { value: 'gives', name: 'What it gives' }, { value: 'after', name: 'After the button' }, { value: 'address', name: 'Address' },
]
/** Which part shows what is missing in a field; what is not named here is told on the page itself. */
const PART_OF: Record<string, string> = {
  form: 'form', listIds: 'gives', promised: 'gives', file: 'gives', confirming: 'yes', thanks: 'after', redirectUrl: 'after',
  name: 'address', slug: 'address',
}
const partOf = (field: string) => PART_OF[field] ?? (/^[ab]\d/.test(field) ? 'form' : /^r\d/.test(field) ? 'after' : 'page')

const { afresh, view, typed, saving, notThere, missing, wrong, publish, takeDown } = usePublished<PageContent, PageView>({
  ask: () => api('GET /pages/:id', { at: { id } }),
  save: (body, ifMatch) => api('PUT /pages/:id', { at: { id }, body, ifMatch }),
  publish: ifMatch => api('POST /pages/:id/publish', { at: { id }, ifMatch }),
  takeDown: () => api('DELETE /pages/:id/publish', { at: { id } }),
  show: body => api('PUT /pages/:id/shown', { at: { id }, body }),
}, {
  goTo(field) {
    set({ part: partOf(field) })
    if (partOf(field) === 'page') goTo(field, typed.value!.draft.sections)
  },
  published: 'Visitors now see version N.',
  takenDown: 'Visitors find nothing at its address.',
  except: 'Those who opted in meanwhile stay subscribers.',
  takeDown: {
    header: 'Take this page down',
    message: 'Visitors will find nothing at its address. People who opted in stay as they are. You can publish it again.',
  },
})
const { state, problem } = saving
const { pictures, bring, chosen, side, face, path, goTo } = usePageSide(view)

/** The result page that the answers being tried lead to. */
const cameTo = ref<string | null>(null)
const canvas = ref<InstanceType<typeof PageCanvas>>()

const fields = computed(() => new Map(parts.value?.fields.map(field => [field.id, field]) ?? []))
const formBox = (mark: Mark) => formHtml({ form: typed.value!.draft.form, fields: fields.value, action: '', touch: NO_TOUCH, mark })
const shapeOfForm = computed(() => {
  const { firstName, oneByOne, asks, boxes } = typed.value!.draft.form
  return [firstName, oneByOne, asks, boxes, fields.value.size]
})

/** What a visitor sees at this part of the way, as a phone shows it. */
const seen = computed(() => {
  if (!typed.value || !parts.value) return ''
  const { draft } = typed.value
  switch (values.value.part) {
    case 'yes':
      return renderWait({
        headline: draft.confirming.waitHeadline, text: draft.confirming.waitText, theme: draft.theme,
        senderAddress: 'your sender’s address', ...face.value,
      })
    case 'after':
      return renderThanks({ thanks: endingOf(draft, { resultId: cameTo.value, known: false }).thanks, theme: draft.theme, ...face.value })
    default:
      return renderOptIn({
        content: draft, action: '', url: '', touch: NO_TOUCH, at: path, now: frame.now, zone: frame.zone,
        pictures: new Map(pictures.value.map(picture => [picture.id, picture])), fields: fields.value, ...face.value,
      })
  }
})

const ending = useEnding()
const deleteIt = () => ending.ask({
  thing: { kind: 'page', id }, header: `Delete ${view.value!.name}?`, acceptLabel: 'Delete the page',
  message: 'It is off the web at once, and its address is free. People who opted in keep everything, including their consent.',
  accept: async () => {
    await api('DELETE /pages/:id', { at: { id } })
    await frame.changed()
    await navigateTo('/pages')
  },
})
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="view && typed && parts">
    <PageHead :title="typed.name" :back="{ to: '/pages', name: 'Opt-in pages' }">
      <template v-if="view.status === 'published'">
        Published, version {{ view.versionNumber }}{{ view.hasChanges ? ', with changes visitors do not see yet' : '' }}.
        <PeopleNumber :people="view.optIns" :query="{ optin: id }" :words="saySome(view.optIns, 'opt-in', 'opt-ins')" />.
      </template>
      <template v-else>Draft. Only you can see it.</template>
      {{ ' ' }}<SaveNote :draft="saving" :state="state" :problem="problem ? problem.message : null" />
      <template #actions>
        <ThingActions kind="page" :id="id" :to="one => `/pages/${one}`" />
        <Button severity="secondary" icon="pi pi-trash" aria-label="Delete this page" title="Delete this page" @click="deleteIt" />
        <NuxtLink :to="`/pages/${id}/results`" class="results">Results</NuxtLink>
        <Button
          v-if="view.status === 'published'" as="a" :href="view.url" target="_blank" rel="noopener" label="Open the page"
          severity="secondary" icon="pi pi-external-link" icon-pos="right" />
        <Button v-if="view.status === 'published'" label="Take it down" severity="secondary" @click="takeDown" />
        <Button
          v-if="view.status === 'draft' || view.hasChanges" id="publish"
          :label="view.status === 'published' ? 'Publish the changes' : 'Publish the page'" @click="publish" />
      </template>
    </PageHead>

    <p v-if="missing.length > 0" class="note brick not-yet" role="alert">Not published yet.
      {{ missing.map(entry => entry.problem).join(' ') }}</p>
    <AstrayNotes :astray="view.astray" :flush="saving.flush" @mended="afresh" />
    <PartTabs
      :parts="PARTS" :chosen="values.part" :wanting="part => missing.some(({ field }) => partOf(field) === part)" label="Parts of the page"
      @choose="part => set({ part })" />

    <div class="columns" :class="side === 'phone' || values.part !== 'page' ? 'with-phone' : 'with-list'">
      <PageCanvas
        v-if="values.part === 'page'" ref="canvas" v-model="typed.draft" v-model:chosen="chosen" :pictures="pictures" :box="formBox"
        :shape-of-box="shapeOfForm" />
      <FormPanel
        v-else-if="values.part === 'form'" v-model="typed.draft.form" :lists="lists" :tags="tags" :make="make" :problems="missing" />
      <YesPanel
        v-else-if="values.part === 'yes'" v-model="typed.draft.confirming" :list-id="typed.draft.listIds[0] ?? null"
        :problem="wrong('confirming')" />
      <div v-else-if="values.part === 'gives'" class="stack">
        <GivesPanel v-model="typed.draft" :view="view" :lists="lists" :tags="tags" :make="make" :wrong="wrong" />
        <RulesBeside kind="page" :id="id" />
      </div>
      <AfterPanel v-else-if="values.part === 'after'" v-model="typed.draft" :tags="tags" :make="name => make('tags', name)" :wrong="wrong"
                  @came="id => cameTo = id" />
      <div v-else class="stack">
        <AddressPanel v-model="typed" :pictures="pictures" :url="view.url" :wrong="wrong" @picture="bring" />
        <EmbedPanel :content="typed.draft" :url="view.url" :published="view.status === 'published'" />
      </div>

      <aside class="page-side" :aria-label="values.part === 'page' ? 'Sections of the page' : 'On a phone'">
        <SelectButton
          v-if="values.part === 'page'" v-model="side" :options="[...PAGE_SIDES]" option-label="name" option-value="value"
          :allow-empty="false" size="small" aria-label="Beside the page" />
        <p
          v-else
          class="second small">{{ values.part === 'yes' ? 'Page shown until they confirm' : values.part === 'after' ? 'Where they go'
            : 'The page' }}, on a phone</p>
        <PhoneView
          v-if="values.part !== 'page' || side === 'phone'" :key="values.part" :html="seen"
          :show="values.part === 'form' ? 'section.form' : undefined" title="On a phone"
          :night="typed.draft.theme.night" />
        <ThemePanel v-else-if="side === 'theme'" v-model="typed.draft.theme" />
        <SectionList
          v-else v-model="typed.draft.sections" v-model:chosen="chosen" :pictures="pictures" :problems="missing"
          @show="section => canvas?.show(section)" @picture="bring" />
      </aside>
    </div>
  </div>
</template>

<style scoped>
.not-yet { margin-bottom: 12px; }
.results { font-weight: 600; align-self: center; }
</style>
