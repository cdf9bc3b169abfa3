<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import { linksOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { ACTION_KINDS, type Action } from '#core/rules/rule'
import { isAbsence, type Reaction, type ReactsOn } from '#core/sequence/program'
import { actionChoices } from '~/rules/choices'
import { useRuleParts } from '~/composables/useParts'
import ActionRow from '~/components/rule/ActionRow.vue'
import { LineEditor } from '~/editor/lazy'
import SpanField from './SpanField.vue'

/** What happens from an email: from its sending, from how it is read, or from nobody reading it in time. */
const reaction = defineModel<Reaction>({ required: true })
const props = defineProps<{ n: number, content: MessageContent, /** Steps behind this one, to go on before. */ later: {
  id: string, name: string,
}[], /** Another reaction sends it a second time already. */ sentAgain: boolean }>()
defineEmits<{ remove: [] }>()

const parts = useRuleParts()
const KINDS = ACTION_KINDS.filter(kind => kind !== 'email')
const ONS: { value: ReactsOn, name: string }[] = [
  { value: 'sent', name: 'When it has been sent' }, { value: 'opened', name: 'When a reader opens it' },
  { value: 'clicked', name: 'When they click a link in it' },
  { value: 'not-opened', name: 'When no reader opens it' }, { value: 'not-clicked', name: 'When they do not click a link in it' },
]
const label = computed(() => `What happens ${props.n}`)
const urls = computed(() => [{ value: '', name: 'any link' }, ...[
  ...new Map(linksOf(props.content.body).map(({ url, label: words }) => [url, words])).entries(),
].map(([value, name]) => ({ value, name }))])
const set = (change: Partial<Reaction>) => reaction.value = { ...reaction.value, ...change }
function choose(on: ReactsOn) {
  const { url, within, again, ...rest } = reaction.value
  reaction.value = {
    ...rest, on, ...(on === 'clicked' || on === 'not-clicked') && url !== undefined && { url },
    ...isAbsence(on) && { within: within ?? { count: 3, unit: 'days' as const } }, ...on === 'not-opened' && again && { again },
  }
}
function setUrl(url: string) {
  const { url: _, ...rest } = reaction.value
  reaction.value = url ? { ...rest, url } : rest
}
const addAction = () => set({
  then: [...reaction.value.then, actionChoices(parts.value).find(({ value }) => KINDS.includes(value as typeof KINDS[number]))!.make()],
})
const setAction = (at: number, action: Action) => set({ then: reaction.value.then.map((one, n) => n === at ? action : one) })
function without(part: 'again' | 'skipToId') {
  const { [part]: _, ...rest } = reaction.value
  reaction.value = rest
}
</script>

<template>
  <section class="reaction" :aria-label="label">
    <div class="line">
      <Select
        :model-value="reaction.on" :options="ONS" option-label="name" option-value="value" size="small" :aria-label="`${label}: when`"
        @update:model-value="choose" />
      <Select
        v-if="reaction.on === 'clicked' || reaction.on === 'not-clicked'" :model-value="reaction.url ?? ''" :options="urls"
        option-label="name" option-value="value" size="small" placeholder="any link" :aria-label="`${label}: which link`"
        @update:model-value="setUrl" />
      <template v-if="reaction.within">within <SpanField
        :model-value="reaction.within" :label="`${label}: within`" @update:model-value="within => set({ within })" /></template>
      <button type="button" class="link-button small brick-text last" @click="$emit('remove')">Remove it</button>
    </div>
    <p v-if="reaction.on === 'opened' || reaction.on === 'not-opened'" class="second small">Reader opens only: automatic loading by a mail
      app does not count. People who clicked have read it.</p>
    <ActionRow
      v-for="(action, at) in reaction.then" :key="at" :model-value="action" :label="`${label}, action ${at + 1}`" :kinds="KINDS"
      @update:model-value="next => setAction(at, next)" @remove="set({ then: reaction.then.filter((_, one) => one !== at) })" />
    <div v-if="reaction.again" class="again">
      <span class="label">It is sent again to people who neither opened nor clicked, with this subject</span>
      <LineEditor
        :model-value="reaction.again.subject" label="Subject of the second sending"
        @update:model-value="subject => set({ again: { subject, messageId: null } })" />
      <button type="button" class="link-button small" @click="without('again')">Don’t send it again</button>
    </div>
    <div v-if="reaction.skipToId !== undefined" class="line">
      <span>They continue at</span>
      <Select
        :model-value="reaction.skipToId" :options="later" option-label="name" option-value="id" size="small" placeholder="which step"
        :aria-label="`${label}: before which step`" @update:model-value="skipToId => set({ skipToId })" />
      <button type="button" class="link-button small" @click="without('skipToId')">Stay where they are</button>
    </div>
    <p class="line small">
      <button type="button" class="link-button" @click="addAction"><i class="pi pi-plus small" aria-hidden="true" /> something done</button>
      <button
        v-if="reaction.on === 'not-opened' && !reaction.again && !sentAgain" type="button" class="link-button"
        @click="set({ again: { subject: content.subject, messageId: null } })"><i class="pi pi-plus small" aria-hidden="true" /> send it
        again</button>
      <button
        v-if="reaction.skipToId === undefined && later.length" type="button" class="link-button" @click="set({ skipToId: later[0]!.id })">
        <i class="pi pi-plus small" aria-hidden="true" /> skip ahead</button>
    </p>
  </section>
</template>

<style scoped>
.reaction { display: grid; gap: 6px; padding: 10px 12px; border-radius: 8px; background: var(--p-porch-rail); width: 100%; }
.line { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.again { display: grid; gap: 4px; justify-items: start; }
.again > :nth-child(2) { width: 100%; }
.last { margin-left: auto; }
.brick-text { color: var(--p-porch-brick); }
</style>
