<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import SelectButton from 'primevue/selectbutton'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import type { PageContent } from '#core/page/content'
import { NO_TOUCH } from '#core/page/touch'
import { renderOptIn, renderThanks } from '#core/page/render'
import type { PageView } from '#core/views/pages'
import { api, ApiProblem } from '~/composables/useApi'
import { useDraft } from '~/composables/useDraft'
import { useFresh } from '~/composables/useFresh'
import { useMarks } from '~/composables/useMarks'
import { useFrame } from '~/stores/frame'
import { saySome } from '~/look/say'
import MarkPicker from '~/components/MarkPicker.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'
import PageHead from '~/components/PageHead.vue'
import RichEditor from '~/components/RichEditor.vue'
import SaveNote from '~/components/SaveNote.vue'

const id = Number(useRoute().params.id)
const frame = useFrame()
const toast = useToast()
const confirm = useConfirm()
const { lists, tags, make } = useMarks()

const view = ref<PageView | null>(null)
const typed = ref<{ name: string, slug: string, draft: PageContent } | null>(null)
const { problem: notThere } = useFresh(async () => {
  view.value = await api<PageView>(`pages/${id}`)
  const { name, slug, draft } = view.value
  typed.value ??= { name, slug, draft }
})
const { state, problem, flush } = useDraft(typed, async (value) => {
  view.value = await api<PageView>(`pages/${id}`, { method: 'PUT', body: value })
})

const asked = ref(false)
/** What is wrong with a field: the server's word at once, what is missing only after publishing was tried. */
const wrong = (field: string) => problem.value?.of(field) ?? problem.value?.of(`draft.${field}`) ?? (asked.value ? view.value?.missing.find(entry => entry.field === field)?.problem : undefined)

const shown = ref<'page' | 'thanks'>('page')
const preview = computed(() => {
  if (!typed.value) return ''
  const { draft } = typed.value
  const face = { senderName: frame.frame?.workspace.name ?? '', postalAddress: '', files: { css: '/public.css', script: null } }
  return shown.value === 'page'
    ? renderOptIn({ content: { ...draft, headline: draft.headline || 'Your headline' }, action: '', touch: NO_TOUCH, ...face })
    : renderThanks({ headline: draft.thanksHeadline, text: draft.thanksText, ...face })
})

async function publish() {
  asked.value = true
  if (!(await flush()) || view.value!.missing.length > 0) {
    // What is missing may lie below the fold: go there.
    await nextTick()
    document.querySelector('.field .problem')?.closest('.field')?.scrollIntoView({ block: 'center' })
    return
  }
  try {
    view.value = await api<PageView>(`pages/${id}/publish`, { method: 'POST' })
    asked.value = false
    toast.add({ severity: 'success', summary: 'Published', detail: `Visitors now see version ${view.value.versionNumber}.`, life: 4000 })
  }
  catch (error) {
    toast.add({ severity: 'error', summary: 'Not published', detail: error instanceof ApiProblem ? error.message : String(error), life: 8000 })
  }
}

function takeDown() {
  confirm.require({
    header: 'Take this page down', message: 'Visitors will find nothing at its address. Whoever opted in stays as they are. You can publish it again.',
    acceptProps: { label: 'Take it down', severity: 'danger' }, rejectProps: { label: 'Leave it', severity: 'secondary' },
    accept: async () => {
      view.value = await api<PageView>(`pages/${id}/publish`, { method: 'DELETE' })
    },
  })
}
</script>

<template>
  <p v-if="notThere" class="note brick">{{ notThere }}</p>
  <div v-else-if="view && typed">
    <PageHead :title="typed.name" :back="{ to: '/pages', name: 'Opt-in pages' }">
      <template v-if="view.status === 'published'">
        Published, version {{ view.versionNumber }}{{ view.hasChanges ? ', with changes visitors do not see yet' : '' }}. <PeopleNumber :people="view.optIns" :query="{ optin: id }" :words="saySome(view.optIns, 'opt-in', 'opt-ins')" />.
      </template>
      <template v-else>Draft. Only you can see it.</template>
      {{ ' ' }}<SaveNote :state="state" :problem="problem && problem.fields.length === 0 ? problem.message : null" />
      <template #actions>
        <NuxtLink :to="`/pages/${id}/results`" class="results">Results</NuxtLink>
        <Button v-if="view.status === 'published'" as="a" :href="view.url" target="_blank" rel="noopener" label="Open the page" severity="secondary" icon="pi pi-external-link" icon-pos="right" />
        <Button v-if="view.status === 'published'" label="Take it down" severity="secondary" @click="takeDown" />
        <Button v-if="view.status === 'draft' || view.hasChanges" :label="view.status === 'published' ? 'Publish the changes' : 'Publish the page'" @click="publish" />
      </template>
    </PageHead>

    <p v-if="asked && view.missing.length > 0" class="note brick not-yet" role="alert">Not published yet. {{ view.missing.map(entry => entry.problem).join(' ') }}</p>
    <div class="columns two">
      <div class="stack">
        <section class="panel panel-body fields" aria-label="What the page says">
          <div class="field"><label for="headline">Headline</label><InputText id="headline" v-model="typed.draft.headline" maxlength="200" :invalid="!!wrong('headline')" /><p v-if="wrong('headline')" class="problem">{{ wrong('headline') }}</p></div>
          <div class="field"><span class="label">Text</span><RichEditor v-model="typed.draft.text" label="Text of the page" /></div>
          <div class="checks">
            <span><Checkbox v-model="typed.draft.asksFirstName" input-id="asks-name" binary /><label for="asks-name">Asks for the first name</label></span>
            <span><Checkbox v-model="typed.draft.firstNameRequired" input-id="name-required" binary :disabled="!typed.draft.asksFirstName" /><label for="name-required">and wants an answer</label></span>
          </div>
          <div class="field"><label for="button-label">The button says</label><InputText id="button-label" v-model="typed.draft.buttonLabel" maxlength="80" :invalid="!!wrong('buttonLabel')" /><p v-if="wrong('buttonLabel')" class="problem">{{ wrong('buttonLabel') }}</p></div>
          <div class="field"><label for="consent">Under the button: what they agree to</label><Textarea id="consent" v-model="typed.draft.consentWording" rows="2" auto-resize :invalid="!!wrong('consentWording')" /><p v-if="wrong('consentWording')" class="problem">{{ wrong('consentWording') }}</p><p v-else class="hint">Kept word for word with everybody who presses the button.</p></div>
        </section>
        <section class="panel panel-body fields" aria-label="What it gives">
          <h2>What it gives</h2>
          <div class="field"><label for="lists">They join</label><MarkPicker v-model="typed.draft.listIds" input-id="lists" what="list" :options="lists" :invalid="!!wrong('listIds')" :make="name => make('lists', name)" /><p v-if="wrong('listIds')" class="problem">{{ wrong('listIds') }}</p></div>
          <div class="field">
            <label for="tags">They get</label><MarkPicker v-model="typed.draft.tagIds" input-id="tags" what="tag" :options="tags" :make="name => make('tags', name)" />
            <p class="hint"><template v-if="view.leadsTo.length">That brings them into <NuxtLink v-for="course in view.leadsTo" :key="course.id" :to="`/courses/${course.id}`">{{ course.name }}</NuxtLink>.</template><template v-else>No running course starts with these tags yet.</template></p>
          </div>
        </section>
        <section class="panel panel-body fields" aria-label="After the button">
          <h2>After the button</h2>
          <div class="field"><label for="thanks-headline">Headline</label><InputText id="thanks-headline" v-model="typed.draft.thanksHeadline" maxlength="200" :invalid="!!wrong('thanksHeadline')" @focus="shown = 'thanks'" /><p v-if="wrong('thanksHeadline')" class="problem">{{ wrong('thanksHeadline') }}</p></div>
          <div class="field" @focusin="shown = 'thanks'"><span class="label">Text</span><RichEditor v-model="typed.draft.thanksText" label="Text after the button" /></div>
        </section>
        <section class="panel panel-body fields two" aria-label="Name and address">
          <div class="field"><label for="name">What you call it</label><InputText id="name" v-model="typed.name" maxlength="120" :invalid="!!wrong('name')" /><p v-if="wrong('name')" class="problem">{{ wrong('name') }}</p></div>
          <div class="field"><label for="slug">Its address ends in</label><InputText id="slug" v-model="typed.slug" class="mono" maxlength="80" :invalid="!!wrong('slug')" /><p v-if="wrong('slug')" class="problem">{{ wrong('slug') }}</p></div>
        </section>
      </div>

      <section class="seen" aria-label="What visitors see">
        <SelectButton v-model="shown" :options="[{ name: 'The page', value: 'page' }, { name: 'After the button', value: 'thanks' }]" option-label="name" option-value="value" :allow-empty="false" size="small" aria-label="Which part to look at" />
        <iframe :srcdoc="preview" sandbox="allow-same-origin" title="The page as visitors see it" tabindex="-1" inert />
      </section>
    </div>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1fr) minmax(0, 1.05fr); }
.fields.two { grid-template-columns: 1fr 1fr; }
.not-yet { margin-bottom: 12px; }

.results { font-weight: 600; align-self: center; }
.checks { display: flex; gap: 22px; flex-wrap: wrap; }
.checks span { display: inline-flex; align-items: center; gap: 8px; }
.seen { position: sticky; top: 0; display: grid; gap: 8px; justify-items: start; }
iframe { width: 100%; height: calc(100vh - var(--rail) - 170px); min-height: 420px; border: 1px solid var(--p-porch-line); border-radius: 8px; background: var(--p-porch-paper); }
@media (max-width: 1000px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
