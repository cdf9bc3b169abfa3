<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { linksOf } from '#core/message/blocks'
import { isAddress } from '#core/message/webAddress'
import { checkMessage, type Checked } from '#core/message/checks'
import type { Spot } from '#core/message/checks/check'
import { easeOf } from '#core/message/ease'
import type { EmailPreview, EmailVersions, WrittenEmail } from '#core/views/email'
import { widthOfSubject } from '~/composables/phoneSubject'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import { useFrame } from '~/stores/frame'

/** What is looked at before an email leaves, while it is written; what is found leads to its place. */
const props = defineProps<{
  email: WrittenEmail, own: boolean
  /** With the parts in their place. */
  whole: <Content>(content: Content) => Content
  versions: EmailVersions | null
}>()
const emit = defineEmits<{ go: [spot: Spot], /** By block: what is found there, in a few words. */ notes: [notes: Map<string, string>] }>()
const frame = useFrame()

/** What only the server knows; asked a moment after the last letter. */
const made = ref<EmailPreview | null>(null)
const askedMade = useNewest()
async function ask() {
  const isNewest = askedMade()
  const answer = await api('POST /emails/preview', { body: { ...props.email, personId: null, firstName: '', chosen: null } })
    .catch(() => null)
  if (isNewest()) made.value = answer
}
/** Asked once nobody has changed a link for a while. */
const deadLinks = shallowRef(new Map<string, string>())
const urls = computed(() => JSON.stringify(linksOf(props.whole(props.email.content).body)
  .flatMap(({ url, answers }) => answers || !isAddress(url) ? [] : [url])))
const askedLinks = useNewest()
async function askLinks() {
  const isNewest = askedLinks()
  const body = { urls: JSON.parse(urls.value) as string[] }
  const answer = body.urls.length > 0 ? await api('POST /emails/links', { body }).catch(() => []) : []
  if (isNewest()) deadLinks.value = new Map(answer.map(({ url, problem }) => [url, problem]))
}
const checked = shallowRef<Checked | null>(null)
function check() {
  checked.value = checkMessage(props.whole(props.email.content), {
    now: frame.now, zone: frame.zone, own: props.own, widthOf: widthOfSubject, easeOf, bytes: made.value?.bytes ?? null,
    hasPostalAddress: made.value?.hasPostalAddress ?? true, choices: props.versions?.choices ?? null,
    offers: made.value?.offers ?? null, from: made.value?.from ?? null,
    pictureBytes: new Map(made.value?.pictures.map(({ id, bytes }) => [id, bytes])), deadLinks: deadLinks.value,
    coupons: made.value?.coupons ?? [], isLasting: true,
  })
  emit('notes', new Map(checked.value.findings.flatMap(({ at, note }) =>
    note && at !== null && typeof at === 'object' ? [[at.blockId, note]] : [])))
}
const text = computed(() => JSON.stringify(props.email.content))
watchDebounced(text, () => void ask().then(check), { debounce: 1200 })
watchDebounced(text, check, { debounce: 200 })
watchDebounced(urls, () => void askLinks().then(check), { debounce: 2500 })
watch(() => props.versions, check)
check()
void ask().then(check)
void askLinks().then(check)
const said = computed(() => {
  const { findings = [], passed = [] } = checked.value ?? {}
  const wrong = findings.filter(({ weight }) => weight === 'wrong').length
  const look = findings.length - wrong
  const parts = [wrong > 0 && `${wrong} to fix`, look > 0 && `${look} to look at`, `${passed.length} passed`]
  return parts.filter(Boolean).join(', ')
})
</script>

<template>
  <section v-if="checked" class="panel" aria-labelledby="before-it-leaves">
    <div class="panel-head"><h2 id="before-it-leaves">Before it leaves</h2><span class="second small" role="status">{{ said }}</span></div>
    <div v-for="(finding, n) in checked.findings" :key="n" class="finding" :class="finding.weight">
      <i class="pi" :class="finding.weight === 'wrong' ? 'pi-exclamation-circle' : 'pi-eye'" aria-hidden="true" />
      <div>
        <p><strong>{{ finding.says }}</strong></p>
        <p class="second small">{{ finding.todo }}</p>
        <button v-if="finding.at" type="button" class="link-button small" @click="emit('go', finding.at)">Show me</button>
      </div>
    </div>
    <ul class="passed small">
      <li v-for="one in checked.passed" :key="one.name">
        <i class="pi pi-check" aria-hidden="true" /><span>{{ one.name }}</span><span class="second">{{ one.detail }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.finding {
  display: grid; grid-template-columns: 20px minmax(0, 1fr); gap: 8px; padding: 10px 14px;
  border-top: 1px solid var(--p-porch-line-light);
}
.finding .pi { padding-top: 3px; }
.wrong .pi { color: var(--p-porch-brick); }
.look .pi { color: var(--p-porch-ink-second); }
.passed { list-style: none; margin: 0; padding: 10px 14px 12px; display: grid; gap: 5px; border-top: 1px solid var(--p-porch-line-light); }
.passed li { display: grid; grid-template-columns: 20px minmax(0, 1fr) auto; gap: 8px; }
.passed .pi { color: var(--p-porch-spruce); font-size: 12px; padding-top: 4px; }
</style>
