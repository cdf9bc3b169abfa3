<script setup lang="ts">
import InputText from 'primevue/inputtext'
import RadioButton from 'primevue/radiobutton'
import Textarea from 'primevue/textarea'
import type { ImportSpec } from '#core/exchange/importing'
import { useMarks } from '~/composables/useMarks'
import DateField from '~/components/DateField.vue'
import MarkPicker from '~/components/MarkPicker.vue'

/** On which terms the rows come in: consent first, then marks, source and what may begin. */
export type Terms = Omit<ImportSpec, 'columns' | 'consent'> & {
  consent: 'given' | 'none' | null, origin: string, wording: string, date: string,
}
const terms = defineModel<Terms>({ required: true })
defineProps<{ of: (field: string) => string | undefined }>()
const { lists, tags, make } = useMarks()
</script>

<template>
  <section class="panel" aria-labelledby="consent-from">
    <h2 id="consent-from">Consent</h2>
    <div class="panel-body fields">
      <div class="way">
        <RadioButton v-model="terms.consent" input-id="given" name="consent" value="given" />
        <label for="given">They agreed, and I know where and to what</label>
      </div>
      <template v-if="terms.consent === 'given'">
        <div class="field">
          <label for="origin">Where they agreed</label>
          <InputText
            id="origin" v-model="terms.origin" maxlength="200" placeholder="on paper at the spring fair" :invalid="!!of('consent')" />
          <span v-if="of('consent')" class="problem">{{ of('consent') }}</span>
        </div>
        <div class="field">
          <label for="wording">What they agreed to, in the words they saw</label>
          <Textarea id="wording" v-model="terms.wording" rows="2" maxlength="1000" auto-resize :invalid="!!of('wording')" />
          <span v-if="of('wording')" class="problem">{{ of('wording') }}</span>
        </div>
        <div class="field">
          <label for="agreed-on">Date, for rows without their own</label>
          <DateField v-model="terms.date" input-id="agreed-on" />
        </div>
      </template>
      <div class="way">
        <RadioButton v-model="terms.consent" input-id="none" name="consent" value="none" />
        <label for="none">There is no record<br /><span class="second small">Then people who live where consent must be on record get no
          emails.</span></label>
      </div>
    </div>
  </section>
  <section class="panel" aria-labelledby="terms">
    <h2 id="terms">What they get</h2>
    <div class="panel-body fields">
      <div class="field">
        <label for="import-lists">Add to the lists</label>
        <MarkPicker v-model="terms.listIds" input-id="import-lists" what="list" :options="lists" :make="name => make('lists', name)" />
      </div>
      <div class="field">
        <label for="import-tags">Add the tags</label>
        <MarkPicker v-model="terms.tagIds" input-id="import-tags" what="tag" :options="tags" :make="name => make('tags', name)" />
      </div>
      <div class="field">
        <label for="source">Source of new people</label>
        <InputText id="source" v-model="terms.source" maxlength="80" :invalid="!!of('source')" />
        <span v-if="of('source')" class="problem">{{ of('source') }}</span>
      </div>
      <fieldset class="field">
        <legend class="label">Courses and rules that these tags start</legend>
        <div class="way">
          <RadioButton v-model="terms.starts" input-id="quiet" name="starts" :value="false" />
          <label for="quiet">begin nothing</label>
        </div>
        <div class="way">
          <RadioButton v-model="terms.starts" input-id="starts" name="starts" :value="true" />
          <label for="starts">may start, for people who are new to them</label>
        </div>
      </fieldset>
      <fieldset class="field">
        <legend class="label">When a cell cannot be read</legend>
        <div class="way">
          <RadioButton v-model="terms.oddCells" input-id="leave-out" name="odd" value="leave-out" />
          <label for="leave-out">import the row without it, and list it</label>
        </div>
        <div class="way">
          <RadioButton v-model="terms.oddCells" input-id="refuse" name="odd" value="refuse" />
          <label for="refuse">refuse the row</label>
        </div>
      </fieldset>
      <fieldset class="field">
        <legend class="label">When something else is already known</legend>
        <div class="way">
          <RadioButton v-model="terms.known" input-id="keep" name="known" value="keep" />
          <label for="keep">keep what is known, fill the gaps</label>
        </div>
        <div class="way">
          <RadioButton v-model="terms.known" input-id="replace" name="known" value="replace" />
          <label for="replace">use the file’s values; empty cells change nothing</label>
        </div>
      </fieldset>
    </div>
  </section>
</template>

<style scoped>
.way { display: flex; gap: 9px; align-items: baseline; padding-block: 2px; }
fieldset { border: 0; margin: 0; padding: 0; }
legend { padding: 0 0 4px; }
</style>
