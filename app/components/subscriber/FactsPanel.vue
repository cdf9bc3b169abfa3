<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { sayOrigin } from '#core/events'
import { sayCountry } from '#core/people/country'
import { sayField, type FieldValue } from '#core/people/field'
import type { FieldLine } from '#core/views/audience'
import { sayDay, sayZone } from '#core/time/say'
import type { SubscriberView } from '#core/views/people'
import { countryOptions, fieldOptions, isChosen, zoneOptions } from '~/audience/fieldOptions'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useMarks } from '~/composables/useMarks'
import { putBack, useUndo } from '~/stores/undo'
import ProblemNote from '~/components/ProblemNote.vue'

/** What is known about someone, their lists and tags, and changing it by hand. */
const view = defineModel<SubscriberView>({ required: true })
const props = defineProps<{ zone: string }>()

const { lists, tags } = useMarks()
const { busy, problem, attempt } = useAttempt()
const undo = useUndo()
const id = computed(() => view.value.person.id)
const change = (changed: () => Promise<SubscriberView>) => attempt(async () => {
  view.value = await changed()
})
type How = 'POST' | 'DELETE'
const other = (how: How): How => how === 'POST' ? 'DELETE' : 'POST'
async function putOnList(how: How, listId: number) {
  const at = { id: id.value, listId }
  const name = [...lists.value, ...view.value.lists].find(list => list.id === listId)!.name
  const inCourses = view.value.courses.filter(({ status }) => status === 'open').length
  if (!await change(() => api(`${how} /subscribers/:id/lists/:listId`, { at }))) return
  undo.did({
    said: how === 'POST' ? `Added to the list “${name}”.` : `Removed from the list “${name}”.`,
    undo: () => api(`${other(how)} /subscribers/:id/lists/:listId`, { at }),
    ...how === 'DELETE' && inCourses > 0 && { except: 'Courses that ended with it stay ended.' },
  })
}
async function giveTag(how: How, tagId: number) {
  const at = { id: id.value, tagId }
  const name = [...tags.value, ...view.value.tags].find(tag => tag.id === tagId)!.name
  if (!await change(() => api(`${how} /subscribers/:id/tags/:tagId`, { at }))) return
  undo.did({
    said: how === 'POST' ? `Added the tag “${name}”.` : `Removed the tag “${name}”.`,
    undo: () => api(`${other(how)} /subscribers/:id/tags/:tagId`, { at }),
    ...how === 'POST' && { except: 'What the tag started goes on.' },
  })
}

const typed = ref<{ firstName: string, zone: string | null, country: string | null, fields: Record<string, string> } | null>(null)
const fields = ref<FieldLine[]>([])
onMounted(async () => fields.value = await api('GET /fields').catch(() => []))
const valueOf = (field: FieldLine, values = view.value.fields) => values.find(({ fieldId }) => fieldId === field.id)?.value
/** What is known of them, as it is typed. */
const known = ({ person: { firstName, zone, country }, fields: values }: SubscriberView) => ({
  firstName, zone, country,
  fields: Object.fromEntries(fields.value.map(field => [field.id, typedAs(field, valueOf(field, values))])),
})
const begin = () => typed.value = known(view.value)
/** A value as it is typed: a country or a zone by its code, yes and no by the word. */
function typedAs(field: FieldLine, value: FieldValue | undefined): string {
  if (value === undefined) return ''
  return field.kind === 'yes-no' ? (value === 1 ? 'yes' : 'no') : String(value)
}
async function correct() {
  const at = { id: id.value }
  const before = known(view.value)
  if (!await change(() => api('PUT /subscribers/:id', { at, body: typed.value! }))) return
  typed.value = null
  const kept = known(view.value)
  undo.did({ said: 'The details are saved.', undo: () => putBack(
    async () => known(await api('GET /subscribers/:id', { at })), kept, () => api('PUT /subscribers/:id', { at, body: before }),
  ) })
}

const more = {
  tags: computed(() => tags.value.filter(({ id }) => !view.value.tags.some(tag => tag.id === id)).map(({ id, name, uses }) => {
    const starts = uses.filter(use => use.how === 'starts').map(use => use.name)
    return { value: id, name: starts.length > 0 ? `${name} (starts ${starts.join(', ')})` : name }
  })),
  lists: computed(() => lists.value.filter(({ id }) => !view.value.lists.some(list => list.id === id && list.leftAt === null))
    .map(({ id, name }) => ({ value: id, name }))),
}
const since = (at: number, eventId: number) => [`since ${sayDay(at, props.zone)}`, originOf(eventId)].filter(Boolean).join(', ')
/** On which page, by which import or tag, or by hand. */
function originOf(eventId: number): string {
  const given = view.value.events.find(({ id }) => id === eventId)
  return given ? sayOrigin(given, [...view.value.events, ...view.value.causes].find(({ id }) => id === given.causeId)) : ''
}
</script>

<template>
  <section class="panel" aria-labelledby="facts">
    <div class="panel-head">
      <h2 id="facts">Facts</h2>
      <button v-if="!typed" type="button" class="link-button" @click="begin">Correct</button>
    </div>
    <ProblemNote :of="problem" general line class="row" />
    <form v-if="typed" class="panel-body fields" @submit.prevent="correct" @keydown.esc="typed = null">
      <div class="field">
        <label for="first-name">First name</label>
        <InputText id="first-name" v-model="typed.firstName" maxlength="80" autofocus />
      </div>
      <div class="field">
        <span id="person-zone" class="label">Time zone</span>
        <Select
          v-model="typed.zone" aria-labelledby="person-zone" :options="zoneOptions()" option-label="name" option-value="value"
          placeholder="not known" show-clear filter />
        <p class="hint">Unsent emails in the reader’s own zone are rescheduled.</p>
      </div>
      <div class="field">
        <span id="person-country" class="label">Country</span>
        <Select
          v-model="typed.country" aria-labelledby="person-country" :options="countryOptions()" option-label="name" option-value="value"
          placeholder="not known" show-clear filter />
      </div>
      <div v-for="field in fields" :key="field.id" class="field">
        <label v-if="!isChosen(field)" :for="`fact-${field.id}`">{{ field.name }}</label>
        <span v-else :id="`fact-${field.id}`" class="label">{{ field.name }}</span>
        <Select
          v-if="isChosen(field)" :model-value="typed.fields[field.id] || null" :aria-labelledby="`fact-${field.id}`"
          :options="fieldOptions(field)" option-label="name" option-value="value" placeholder="not known" show-clear
          :filter="field.kind !== 'yes-no'" @update:model-value="value => typed!.fields[field.id] = value ?? ''" />
        <InputText
          v-else :id="`fact-${field.id}`" v-model="typed.fields[field.id]" maxlength="1000"
          :placeholder="field.kind === 'date' ? '2026-11-24' : 'not known'" :invalid="!!problem?.of(`fields.${field.id}`)" />
        <p v-if="problem?.of(`fields.${field.id}`)" class="problem" role="alert">{{ problem.of(`fields.${field.id}`) }}</p>
      </div>
      <div class="end">
        <Button severity="secondary" label="Cancel" @click="typed = null" />
        <Button type="submit" label="Save the details" :loading="busy" />
      </div>
    </form>
    <dl v-else class="panel-body facts">
      <dt>Address</dt><dd class="mono">{{ view.person.address }}</dd>
      <dt>First name</dt>
      <dd>
        {{ view.person.firstName || 'not given' }}
        <span v-if="view.person.firstName && !view.nameInMail" class="second small typed">
          Typed in a form. Emails use it once they click in one.
        </span>
      </dd>
      <dt>Time zone</dt><dd>{{ view.person.zone ? sayZone(view.person.zone) : 'not known' }}</dd>
      <dt>Country</dt><dd>{{ view.person.country ? sayCountry(view.person.country) : 'not known' }}</dd>
      <template v-for="field in fields" :key="field.id">
        <template v-if="valueOf(field) !== undefined">
          <dt>{{ field.name }}</dt>
          <dd>{{ sayField(field.kind, valueOf(field)!) }}</dd>
        </template>
      </template>
      <template v-if="view.passedBy">
        <dt>Forwarded by</dt>
        <dd><NuxtLink :to="`/subscribers/${view.passedBy.id}`">{{ view.passedBy.name }}</NuxtLink></dd>
      </template>
      <template v-if="view.brought">
        <dt>Source</dt>
        <dd>
          {{ view.brought.first }}<span v-if="view.brought.latest !== view.brought.first" class="second small">, latest by
            {{ view.brought.latest }}</span>
        </dd>
      </template>
      <dt>Lists</dt>
      <dd>
        <span v-for="list in view.lists" :key="list.id" class="mark">
          <span class="chip">{{ list.name }}</span>
          <span class="second small">
            {{ list.leftAt === null ? since(list.joinedAt, list.eventId) : `left ${sayDay(list.leftAt, zone)}` }}
          </span>
          <button
            v-if="list.leftAt === null" type="button" class="off" :aria-label="`Remove from the list ${list.name}`"
            title="Remove from this list: its courses end for them" @click="putOnList('DELETE', list.id)">
            <i class="pi pi-times" aria-hidden="true" /></button>
        </span>
        <Select
          v-if="more.lists.value.length" :model-value="null" :options="more.lists.value" option-label="name" option-value="value"
          placeholder="add to a list" size="small" aria-label="Add to a list" @update:model-value="id => putOnList('POST', id)" />
      </dd>
      <dt>Tags</dt>
      <dd>
        <span v-for="tag in view.tags" :key="tag.id" class="mark">
          <NuxtLink :to="{ path: '/subscribers', query: { tag: tag.id } }" class="chip">
            <span v-if="tag.colour" class="dot" :style="{ background: tag.colour }" aria-hidden="true" />{{ tag.name }}</NuxtLink>
          <span class="second small">
            {{ since(tag.sinceAt, tag.eventId) }}{{ tag.expiresAt === null ? '' : `; expires ${sayDay(tag.expiresAt, zone)}` }}
          </span>
          <button
            type="button" class="off" :aria-label="`Remove the tag ${tag.name}`" title="Remove this tag"
            @click="giveTag('DELETE', tag.id)"><i class="pi pi-times" aria-hidden="true" /></button>
        </span>
        <Select
          v-if="more.tags.value.length" :model-value="null" :options="more.tags.value" option-label="name" option-value="value"
          placeholder="add a tag" size="small" aria-label="Add a tag" filter @update:model-value="id => giveTag('POST', id)" />
      </dd>
    </dl>
  </section>
</template>

<style scoped>
.typed { display: block; }
.facts { display: grid; grid-template-columns: 92px minmax(0, 1fr); gap: 8px 12px; align-items: baseline; margin: 0; }
.facts dt { color: var(--p-porch-ink-second); font-size: 13px; }
.facts dd { margin: 0; overflow-wrap: anywhere; }
.mark { display: grid; grid-template-columns: minmax(0, 1fr) auto; column-gap: 8px; align-items: center; padding-bottom: 8px; }
.mark .chip { justify-self: start; }
.mark .small { grid-row: 2; grid-column: 1 / -1; }
.dot { width: 9px; height: 9px; border-radius: 3px; }
.off { width: 24px; height: 24px; border: 0; border-radius: 4px; background: none; color: var(--p-porch-ink-second); cursor: pointer; }
.off .pi { font-size: 11px; }
.off:hover { background: var(--p-porch-brick-ground); color: var(--p-porch-brick); }
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
