<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import { isFreeMailbox } from '#core/people/address'
import type { SenderBody } from '#core/operations/senders'
import type { SenderLine } from '#core/views/senders'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import InsideQuestion from '~/components/settings/InsideQuestion.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** A sender, new or changed. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{
  sender: SenderLine | null, lists: readonly { id: number, name: string }[], tags: readonly { id: number, name: string }[]
}>()
const emit = defineEmits<{ saved: [] }>()
const frame = useFrame()

const typed = ref<SenderBody>(props.sender
  ? (({ name, address, replyTo, serviceUrl, listIds, tagIds }) => ({ name, address, replyTo, serviceUrl, listIds, tagIds }))(props.sender)
  : { name: '', address: '', replyTo: '', serviceUrl: null, listIds: [], tagIds: [] })
const isNewAddress = computed(() => props.sender?.address.toLowerCase() !== typed.value.address.trim().toLowerCase())
const { busy, problem, attempt } = useAttempt()
async function save(insideMeant = false) {
  const body = { ...typed.value, insideMeant }
  const { sender } = props
  const done = await attempt(() => sender ? api('PUT /senders/:id', { at: { id: sender.id }, body }) : api('POST /senders', { body }))
  if (!done) return
  visible.value = false
  emit('saved')
}
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="sender ? `Change ${sender.name}` : 'New sender'" :style="{ width: '540px' }">
    <form class="fields" @submit.prevent="save()">
      <div class="field">
        <label for="one-sender-name">Name readers see</label>
        <InputText
          id="one-sender-name" v-model="typed.name" maxlength="80" placeholder="Ines of Saltmarsh Bindery" autofocus
          :invalid="!!problem?.of('name')" />
        <ProblemNote :of="problem" at="name" />
      </div>
      <div class="field">
        <label for="one-sender-address">Address</label>
        <InputText
          id="one-sender-address" v-model="typed.address" maxlength="254" placeholder="ines@example.com" inputmode="email"
          :invalid="!!problem?.of('address')" />
        <ProblemNote :of="problem" at="address" />
        <p v-if="isFreeMailbox(typed.address)" class="problem">Only its owner may send in the name of a free mail service. Most
          mailboxes refuse such mail. Use an address at your own domain.</p>
        <p v-else-if="isNewAddress && frame.frame?.workspace.mode === 'live'" class="hint">A code goes there. Nothing is sent from it until
          you have typed that code here.</p>
      </div>
      <div class="field">
        <label for="one-sender-reply">Replies go to (if somewhere else)</label>
        <InputText
          id="one-sender-reply" v-model="typed.replyTo" maxlength="254" :placeholder="typed.address" inputmode="email"
          :invalid="!!problem?.of('replyTo')" />
        <ProblemNote :of="problem" at="replyTo" />
      </div>
      <div class="field">
        <label for="one-sender-lists">Lists whose emails come from here</label>
        <MultiSelect
          v-model="typed.listIds" input-id="one-sender-lists" :options="[...lists]" option-label="name" option-value="id" display="chip"
          :show-toggle-all="false" filter placeholder="no list in particular" />
      </div>
      <div class="field">
        <label for="one-sender-tags">Tags of readers who get their emails from here</label>
        <MultiSelect
          v-model="typed.tagIds" input-id="one-sender-tags" :options="[...tags]" option-label="name" option-value="id" display="chip"
          :show-toggle-all="false" filter placeholder="no tag in particular" />
        <p class="hint">A sender chosen in an email comes first, then one by tag, then one by list.</p>
      </div>
      <div v-if="frame.frame?.workspace.mode === 'live'" class="field">
        <label for="one-sender-service">Mail service of its own (SMTP address)</label>
        <InputText
          id="one-sender-service" v-model="typed.serviceUrl" class="mono" maxlength="500" autocomplete="off"
          placeholder="the workspace’s" :invalid="!!problem?.of('serviceUrl')" />
        <ProblemNote :of="problem" at="serviceUrl" />
        <InsideQuestion :problem="problem" field="serviceUrl" @meant="save(true)" />
      </div>
      <ProblemNote :of="problem" general />
      <div class="ends"><Button type="submit" :label="sender ? 'Save the sender' : 'Add the sender'" :loading="busy" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.ends { display: flex; justify-content: flex-end; }
</style>
