<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import type { Ask } from '#core/page/form'
import type { ResultPage } from '#core/page/result'
import MarkPicker from '~/components/MarkPicker.vue'
import AnswerTestRow from './AnswerTestRow.vue'
import EndingForm from './EndingForm.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A page for some answers: whom it is for, what they get, and what they read. */
const page = defineModel<ResultPage>({ required: true })
const props = defineProps<{ asks: Ask[], n: number, last: boolean, tags: { id: number, name: string }[], make: (
  name: string,
) => Promise<number>, problem?: string }>()
defineEmits<{ move: [by: -1 | 1], remove: [] }>()

const KINDS = [{ value: 'all', name: 'all of this is true' }, { value: 'any', name: 'any of this is true' }]
const called = computed(() => page.value.name.trim() || `result page ${props.n + 1}`)
</script>

<template>
  <section class="panel panel-body fields" :aria-label="called">
    <div class="line">
      <div class="field grow">
        <label :for="`${page.id}-name`">Result page {{ n + 1 }}; what you call it</label>
        <InputText :id="`${page.id}-name`" v-model="page.name" maxlength="60" size="small" />
      </div>
      <span class="acts">
        <Button
          icon="pi pi-arrow-up" size="small" text severity="secondary" :aria-label="`Move ${called} up`" :disabled="n === 0"
          @click="$emit('move', -1)" />
        <Button
          icon="pi pi-arrow-down" size="small" text severity="secondary" :aria-label="`Move ${called} down`" :disabled="last"
          @click="$emit('move', 1)" />
        <Button icon="pi pi-trash" size="small" text severity="secondary" :aria-label="`Remove ${called}`" @click="$emit('remove')" />
      </span>
    </div>
    <ProblemNote :of="problem" line />
    <p class="when">
      <span>{{ n === 0 ? 'People come here if' : 'Otherwise, if' }}</span>
      <Select v-if="page.when.of.length > 1" v-model="page.when.kind" :options="KINDS" option-label="name" option-value="value" size="small"
              :aria-label="`${called}: all or any`" />
    </p>
    <AnswerTestRow
      v-for="(_, k) in page.when.of" :key="k" v-model="page.when.of[k]!" :asks="asks" :label="`${called}, condition ${k + 1}`"
      @remove="page.when.of.splice(k, 1)" />
    <Button
      :label="page.when.of.length ? 'Add a condition' : 'Choose which answers lead here'" icon="pi pi-plus" size="small"
      severity="secondary" class="start" @click="page.when.of.push({ askId: '', is: 'chosen', optionIds: [] })" />
    <div class="field">
      <label :for="`${page.id}-tags`">Tags for people who see it</label>
      <MarkPicker v-model="page.tagIds" :input-id="`${page.id}-tags`" what="tag" :options="tags" :make="make" />
    </div>
    <EndingForm v-model="page" label="They see" :name="called" />
  </section>
</template>

<style scoped>
.line { display: flex; align-items: end; gap: 10px; }
.grow { flex: 1; }
.acts { display: flex; }
.when { display: flex; flex-wrap: wrap; gap: 8px; align-items: center; }
.start { justify-self: start; }
</style>
