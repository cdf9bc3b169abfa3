<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import Select from 'primevue/select'
import type { Reading, RehearsedReader } from '#core/sequence/rehearsal'
import type { EntryOrExit } from '#core/views/course'
import { zoneOptions } from '~/audience/fieldOptions'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'
import SpanField from './SpanField.vue'

/** A made-up reader: when and where they come, what they read, whether they buy or leave. */
interface Named<Id> { id: Id, name: string }
const props = defineProps<{
  reader: RehearsedReader, emails: Named<string>[], offers: Named<number>[], tags: Named<number>[], ways: EntryOrExit[],
  dateFields: Named<number>[]
}>()
const emit = defineEmits<{ close: [], done: [reader: RehearsedReader] }>()
const typed = ref<RehearsedReader>(JSON.parse(JSON.stringify(props.reader)) as RehearsedReader)

const ZONES = [{ value: '', name: 'not known' }, ...zoneOptions()]
const zone = computed({ get: () => typed.value.zone ?? '', set: value => typed.value.zone = value || null })
const WHICH: { value: Reading['which'], name: string }[] = [
  { value: 'all', name: 'every email they get' }, { value: 'none', name: 'none' }, { value: 'some', name: 'only some of this course' },
]
const buys = computed({
  get: () => typed.value.buys?.offerId ?? 0,
  set: offerId => typed.value.buys = offerId ? { offerId, day: typed.value.buys?.day ?? 2, time: typed.value.buys?.time ?? '20:00' } : null,
})
const leaves = computed({ get: () => typed.value.leaves?.day ?? null, set: day => typed.value.leaves = day === null ? null : { day } })
/* By which page or offer they come. */
const BY_HAND = 'by hand'
const WAYS = computed(() => [
  ...props.ways.filter(({ kind }) => kind === 'page' || kind === 'offer').map(({ kind, id, name }) => ({
    value: `${kind} ${id}`, name: kind === 'page' ? `the page “${name}”` : `buying “${name}”`,
  })),
  { value: BY_HAND, name: 'already on the list: by a tag, a link or by hand' },
])
const by = computed({
  get: () => {
    if (typed.value.by === null) return BY_HAND
    const said = typed.value.by ?? props.ways.find(({ kind }) => kind === 'page')
    return WAYS.value.find(({ value }) => said !== undefined && value === `${said.kind} ${said.id}`)?.value ?? BY_HAND
  },
  set: (value) => {
    const [kind, id] = value.split(' ')
    typed.value.by = value === BY_HAND ? null : { kind: kind as 'page' | 'offer', id: Number(id) }
  },
})
function setDate(fieldId: number, date: string) {
  typed.value.dates = { ...typed.value.dates, [fieldId]: date }
}
</script>

<template>
  <Dialog visible modal header="A made-up reader" :style="{ width: '600px' }" @update:visible="emit('close')">
    <form class="fields" @submit.prevent="emit('done', typed)">
      <div class="line">
        <label for="reader-name">Name</label>
        <InputText id="reader-name" v-model="typed.name" maxlength="40" size="small" />
      </div>
      <div class="line">
        <label for="reader-date">They join on</label>
        <DateField v-model="typed.joins.date" input-id="reader-date" size="small" />
        <label for="reader-time">at</label>
        <TimeField v-model="typed.joins.time" input-id="reader-time" size="small" />
        <span>their zone</span>
        <Select
          v-model="zone" :options="ZONES" option-label="name" option-value="value" filter size="small" placeholder="not known"
          aria-label="Their time zone" class="zone" />
      </div>
      <div v-if="WAYS.length > 1" class="line">
        <span>They join through</span>
        <Select v-model="by" :options="WAYS" option-label="name" option-value="value" size="small" aria-label="How they join" />
      </div>
      <div v-for="what in (['opens', 'clicks'] as const)" :key="what" class="line">
        <span>{{ what === 'opens' ? 'They open' : 'They click the first link of' }}</span>
        <Select
          v-model="typed[what].which" :options="WHICH" option-label="name" option-value="value" size="small"
          :aria-label="what === 'opens' ? 'Emails they open, which' : 'Emails they click a link in'" />
        <MultiSelect
          v-if="typed[what].which === 'some'" v-model="typed[what].stepIds" :options="emails" option-label="name" option-value="id"
          size="small" placeholder="which" :aria-label="what === 'opens' ? 'Emails they open' : 'Emails they click a link in'" class="some"
        />
        <template v-if="typed[what].which !== 'none'">
          <SpanField v-model="typed[what].after" :label="what === 'opens' ? 'Opened after' : 'Clicked after'" />
          <span>{{ what === 'opens' ? 'after it is sent' : 'after opening' }}</span>
        </template>
      </div>
      <div class="line">
        <span>They buy</span>
        <Select
          v-model="buys" :options="[{ id: 0, name: 'nothing' }, ...offers]" option-label="name" option-value="id" size="small"
          aria-label="What they buy" />
        <template v-if="typed.buys">on day <InputNumber
          v-model="typed.buys.day" :min="0" :max="90" :allow-empty="false" size="small" aria-label="On which day they buy" class="few" /> at
          <TimeField v-model="typed.buys.time" input-id="reader-buys" label="When they buy" size="small" /></template>
      </div>
      <div class="line">
        <label for="reader-leaves">They unsubscribe on day</label>
        <InputNumber v-model="leaves" input-id="reader-leaves" :min="0" :max="90" size="small" placeholder="never" class="few" />
      </div>
      <div v-if="tags.length" class="line">
        <span>They have the tags</span>
        <MultiSelect
          v-model="typed.tagIds" :options="tags" option-label="name" option-value="id" filter size="small" placeholder="none"
          aria-label="Tags they have" class="some" />
      </div>
      <div v-for="field in dateFields" :key="field.id" class="line">
        <label :for="`reader-field-${field.id}`">Their {{ field.name }}</label>
        <DateField
          :model-value="typed.dates[field.id] ?? typed.joins.date" :input-id="`reader-field-${field.id}`" size="small"
          @update:model-value="date => setDate(field.id, date)" />
      </div>
      <div class="end">
        <Button severity="secondary" label="Cancel" @click="emit('close')" />
        <Button type="submit" label="Rehearse" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.line { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.zone { max-width: 190px; }
.some { max-width: 260px; }
.few :deep(input) { width: 84px; }
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
