<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import { sayMoment } from '#core/time/say'
import type { DmarcPolicy } from '#core/senders/mailDomain'
import type { DomainLine } from '#core/views/senders'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import SelectField from '~/components/SelectField.vue'
import StateDot from '~/components/StateDot.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What a domain publishes about its mail, what is missing, and what to copy to where the domain is kept. */
const props = defineProps<{ domain: DomainLine }>()
const emit = defineEmits<{ changed: [] }>()
const frame = useFrame()
const { busy, problem, attempt } = useAttempt()
const copied = ref<string | null>(null)

const at = computed(() => ({ domain: props.domain.domain }))
const isPractice = computed(() => frame.frame?.workspace.mode === 'practice')
const act = async (work: () => Promise<unknown>) => {
  if (await attempt(work)) emit('changed')
}
async function copy(text: string) {
  await navigator.clipboard.writeText(text)
  copied.value = text
}
const POLICIES: { value: DmarcPolicy | null, name: string }[] = [
  { value: null, name: 'nothing' }, { value: 'none', name: 'take it all the same' }, { value: 'quarantine', name: 'put it into spam' },
  { value: 'reject', name: 'refuse it' },
]
const ASKS: Record<DmarcPolicy, string> = { none: 'take it all the same', quarantine: 'put it into spam', reject: 'refuse it' }
const facts = computed(() => {
  const { published } = props.domain
  if (!published) return []
  return [
    { name: 'Signature (DKIM)', is: props.domain.isSigned, says: props.domain.isSigned ? 'signs every email from here' : 'not signed' },
    {
      name: 'Mail that is not yours (DMARC)', is: published.dmarc !== null,
      says: published.dmarc ? `receivers ${ASKS[published.dmarc.policy]}` : 'nothing is said',
    },
    { name: 'Servers that may send (SPF)', is: published.spf !== null, says: published.spf ? 'named' : 'nothing is said' },
  ]
})
const told = computed(() => ({
  dkim: props.domain.isSigned, dmarc: props.domain.published?.dmarc?.policy ?? null, spf: Boolean(props.domain.published?.spf),
}))
const tell = (change: Partial<typeof told.value>) =>
  act(() => api('PUT /mail-domains/:domain/practice', { at: at.value, body: { ...told.value, ...change } }))
</script>

<template>
  <section class="panel" :aria-label="domain.domain">
    <div class="panel-head">
      <h2 class="mono">{{ domain.domain }}</h2>
      <Button
        label="Check now" size="small" severity="secondary" :loading="busy"
        @click="act(() => api('POST /mail-domains/:domain/check', { at }))" />
    </div>
    <div class="panel-body fields">
      <ProblemNote :of="domain.trouble" line class="small" />
      <ProblemNote :of="problem" line class="small" />
      <dl v-if="facts.length" class="facts">
        <div v-for="fact in facts" :key="fact.name">
          <dt>{{ fact.name }}</dt>
          <dd><StateDot :is="fact.is ? 'on' : 'off'" :words="fact.says" /></dd>
        </div>
      </dl>
      <p v-else-if="!domain.remarks.length" class="second">Not checked yet.</p>
      <div v-for="remark in domain.remarks" :key="remark.says" class="remark" :class="remark.weight">
        <i class="pi" :class="remark.weight === 'wrong' ? 'pi-exclamation-circle' : 'pi-eye'" aria-hidden="true" />
        <p><strong>{{ remark.says }}.</strong> {{ remark.todo }}</p>
      </div>
      <div v-if="!domain.key && domain.records.length + facts.length > 0">
        <Button label="Make a key" severity="secondary" :loading="busy" @click="act(() => api('POST /mail-domains/:domain/key', { at }))" />
      </div>
      <div v-for="record in domain.records" :key="record.name" class="record">
        <p><strong>{{ record.what }}</strong> <StateDot v-if="record.isThere" is="on" words="published" /></p>
        <dl>
          <div><dt class="small second">Type</dt><dd class="mono small">{{ record.type }}</dd></div>
          <div>
            <dt class="small second">Name</dt>
            <dd class="mono small">{{ record.name }}</dd>
            <dd><button type="button" class="link-button small" :aria-label="`Copy the name ${record.name}`" @click="copy(record.name)">
              {{ copied === record.name ? 'Copied' : 'Copy' }}
            </button></dd>
          </div>
          <div>
            <dt class="small second">Value</dt>
            <dd class="mono small value">{{ record.value }}</dd>
            <dd><button
              type="button" class="link-button small" :aria-label="`Copy the value of ${record.name}`" @click="copy(record.value)">
              {{ copied === record.value ? 'Copied' : 'Copy' }}
            </button></dd>
          </div>
        </dl>
      </div>
      <p v-if="domain.records.some(record => !record.isThere)" class="second small">Add these records where you registered the domain, then
        check again. It can take a few hours until everybody sees them.</p>
      <p v-if="domain.checkedAt" class="second small">Checked {{ sayMoment(domain.checkedAt, frame.zone) }}{{ isPractice
        ? '' : ', and again every day' }}.</p>
      <div v-if="isPractice && domain.published" class="standin fields">
        <p class="small"><strong>In practice</strong> nobody asks the real name servers. Choose what they answer.</p>
        <label v-if="domain.key" class="tick small">
          <Checkbox :model-value="told.dkim" binary @update:model-value="(dkim: boolean) => tell({ dkim })" /> the key is published</label>
        <label class="tick small">
          <Checkbox :model-value="told.spf" binary @update:model-value="(spf: boolean) => tell({ spf })" /> the servers that may send are
          named</label>
        <SelectField
          :model-value="told.dmarc" label="Receivers of mail that is not yours" :options="POLICIES"
          @update:model-value="(dmarc: DmarcPolicy | null) => tell({ dmarc })" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.facts, .record dl { margin: 0; display: grid; gap: 6px; }
.facts > div { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 10px; }
dd { margin: 0; }
.remark { display: grid; grid-template-columns: 20px minmax(0, 1fr); gap: 8px; }
.remark .pi { padding-top: 4px; color: var(--p-porch-ink-second); }
.remark.wrong .pi, .remark.wrong strong { color: var(--p-porch-brick); }
.record { display: grid; gap: 6px; padding-top: 10px; border-top: 1px solid var(--p-porch-line-light); }
.record dl > div { display: grid; grid-template-columns: 50px minmax(0, 1fr) auto; gap: 8px; align-items: baseline; }
/* Nobody reads a key: it is copied. */
.value {
  overflow-wrap: anywhere; display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 2; line-clamp: 2; overflow: hidden;
}
.standin { padding: 12px; border-radius: 8px; background: var(--p-porch-rail); }
.tick { display: flex; gap: 8px; align-items: center; }
</style>
