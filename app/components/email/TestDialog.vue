<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { useToast } from 'primevue/usetoast'
import { saySome } from '#core/stats/say'
import type { AskedReader, EmailVersions, WrittenEmail } from '#core/views/email'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { invented, type ShownReader } from '~/composables/useVersions'
import { useFrame } from '~/stores/frame'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A copy of an email to oneself, or to a few who are asked to look at it. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ email: WrittenEmail, reader: ShownReader, versions: EmailVersions | null }>()
const frame = useFrame()
const toast = useToast()
const { busy, problem, attempt } = useAttempt()
const to = ref('')
/** As many as can be asked for at once. */
const MOST = 12
const each = computed(() => props.versions?.versions.slice(0, MOST) ?? [])
const AS = computed(() => [
  { value: 'reader', name: `${props.reader.firstName || props.reader.address || 'somebody without a name'}, as in the preview` },
  ...each.value.length > 1 ? [{ value: 'each', name: `one reader of each version: ${saySome(each.value.length, 'email', 'emails')}` }] : [],
  { value: 'both', name: 'somebody with a name, and somebody without' },
])
const as = ref('reader')
const readers = computed((): AskedReader[] => {
  const all = as.value === 'both'
    ? [invented('Ines'), invented('')]
    : as.value === 'each'
      ? each.value.map(({ reader, chosen }) => ({ personId: reader.id, firstName: reader.name, chosen }))
      : [props.reader]
  return all.map(({ personId, firstName, chosen }) => ({ personId, firstName, chosen }))
})
onMounted(() => attempt(async () => to.value = (await api('GET /settings')).senderAddress))

async function send() {
  const addresses = to.value.split(/[\s,;]+/).filter(one => one !== '')
  let sent = 0
  if (!await attempt(async () => {
    ({ sent } = await api('POST /emails/test', {
      body: { ...props.email, readers: readers.value, to: addresses },
    }))
  })) return
  toast.add({
    severity: 'success', life: 6000, summary: frame.mode === 'practice'
      ? `${saySome(sent, 'test is', 'tests are')} on the way to the practice mailbox.`
      : `${saySome(sent, 'test is', 'tests are')} on the way.`,
  })
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Send a copy" :style="{ width: '460px' }">
    <form class="fields" @submit.prevent="send">
      <div class="field">
        <label for="test-to">To, at most five addresses</label>
        <InputText id="test-to" v-model="to" :invalid="!!problem?.of('to')" autofocus />
        <ProblemNote :of="problem" at="to" whole />
      </div>
      <SelectField v-model="as" label="As it is read by" :options="AS" />
      <p class="second small">Its subject begins with “Test:”. It is counted nowhere, and its links lead straight on.</p>
      <div class="end"><Button type="submit" label="Send it" :loading="busy" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
