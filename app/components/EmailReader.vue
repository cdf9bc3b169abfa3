<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import SelectButton from 'primevue/selectbutton'
import { kindOf, type EmailKind } from '#core/sending/kinds'
import type { MessageContent } from '#core/message/content'
import { api, ApiProblem, hrefOf } from '~/composables/useApi'
import ProblemNote from '~/components/ProblemNote.vue'

/** An email as one person would read it. */
const props = defineProps<{ content: MessageContent, listId: number | null, kind: EmailKind }>()
const READERS = [{ name: 'Ines', isNamed: true }, { name: 'no name known', isNamed: false }]
/** An email that asks for a confirmation goes mostly to people whose name is not used yet. */
const isNamed = ref(kindOf(props.kind).because !== 'confirm')
const firstName = computed(() => isNamed.value ? READERS[0]!.name : '')
const preview = ref<{ subject: string, text: string } | null>(null)
const form = ref<HTMLFormElement>()
const problem = ref<string | null>(null)

async function read() {
  try {
    preview.value = await api('POST /courses/preview', {
      body: { content: props.content, listId: props.listId, firstName: firstName.value, kind: props.kind },
    })
    problem.value = null
    // The email comes as a page of its own: its styles are its own affair, and the policy of this page would stop them.
    await nextTick()
    form.value?.submit()
  }
  catch (error) {
    preview.value = null
    problem.value = error instanceof ApiProblem ? error.message : String(error)
  }
}
onMounted(read)
watch(isNamed, read)
</script>

<template>
  <div class="fields">
    <div class="field">
      <span class="label">As read by</span>
      <SelectButton
        v-model="isNamed" :options="READERS" option-label="name" option-value="isNamed" :allow-empty="false" size="small"
        aria-label="Reader" />
    </div>
    <ProblemNote :of="problem" />
    <template v-if="preview">
      <p><strong>{{ preview.subject || 'No subject yet' }}</strong></p>
      <form ref="form" method="post" :action="hrefOf('POST /courses/preview/html', {})" target="email-as-it-looks" hidden>
        <input name="content" :value="JSON.stringify(content)" />
        <input name="listId" :value="listId ?? ''" />
        <input name="firstName" :value="firstName" />
        <input name="kind" :value="kind" />
      </form>
      <iframe name="email-as-it-looks" title="The email as it will look" />
      <details><summary>The text part</summary><pre class="mono">{{ preview.text }}</pre></details>
    </template>
  </div>
</template>

<style scoped>
iframe { width: 100%; height: 520px; border: 1px solid var(--p-porch-line); border-radius: 8px; background: #fff; }
pre { white-space: pre-wrap; overflow-wrap: anywhere; margin: 8px 0 0; }
summary { cursor: pointer; min-height: 24px; }
</style>
