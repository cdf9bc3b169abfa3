<script setup lang="ts">
import { ref } from 'vue'
import type { MessageContent } from '#core/message/content'
import { sayPeople } from '#core/stats/say'
import type { EmailVersions } from '#core/views/email'
import { sayCase } from '~/editor/email/onlyFor'
import LineEditor from '~/components/LineEditor.vue'
import WhoDialog, { type ForWhom } from './WhoDialog.vue'

/** Other subjects for some; the first that fits counts, else the one above. */
const cases = defineModel<NonNullable<MessageContent['subjectFor']>>({ required: true })
defineProps<{ sight: EmailVersions['choices'][number] | undefined, listId: number | null }>()
const asking = ref(false)
const asked = ref<number | null>(null)
function ask(n: number | null) {
  asked.value = n
  asking.value = true
}
const change = (n: number, next: Partial<typeof cases.value[number]>) =>
  cases.value = cases.value.map((one, at) => at === n ? { ...one, ...next } : one)
function done({ who, name }: ForWhom) {
  if (asked.value === null) cases.value = [...cases.value, { who, name, subject: [] }]
  else change(asked.value, { who, name })
}
</script>

<template>
  <div class="cases">
    <div v-for="(one, n) in cases" :key="n" class="case">
      <button type="button" class="link-button small" @click="ask(n)">
        {{ sayCase({ who: one.who, name: one.name }, sight?.cases[n]?.says) }}</button>
      <span class="second small">{{ sight?.cases[n] ? sayPeople(sight.cases[n].people) : '' }}</span>
      <LineEditor
        :model-value="one.subject" :label="`Subject of version ${n + 1}`" :list-id="listId"
        @update:model-value="subject => change(n, { subject })" />
      <button
        type="button" class="link-button" :aria-label="`Delete subject of version ${n + 1}`"
        @click="cases = cases.filter((_, at) => at !== n)"><i class="pi pi-times" aria-hidden="true" /></button>
    </div>
    <button type="button" class="link-button small start" @click="ask(null)">Another subject for some</button>
    <WhoDialog
      v-if="asking" v-model:visible="asking"
      :was="asked === null ? null : { who: cases[asked]!.who, name: cases[asked]!.name ?? null }" @done="done" />
  </div>
</template>

<style scoped>
.cases { display: grid; gap: 6px; }
.case { display: grid; grid-template-columns: auto 1fr auto; gap: 2px 8px; align-items: center; }
.case > .line { grid-column: 1 / 3; }
.case > button:first-child { text-align: left; }
.start { justify-self: start; }
</style>
