<script setup lang="ts">
import { computed, ref } from 'vue'
import { watchDebounced } from '@vueuse/core'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { strictest } from '#core/people/status'
import { sayDay } from '#core/time/say'
import type { ListedPerson, SubscriberView } from '#core/views/people'
import { api, hrefOf } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useNewest } from '~/composables/useNewest'
import { putBack, useUndo } from '~/stores/undo'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What is done to a record as a whole: another address, merging, giving it out, erasing. */
const view = defineModel<SubscriberView>({ required: true })
const props = defineProps<{ zone: string }>()
const { busy, problem, attempt } = useAttempt()
const undo = useUndo()
const way = ref<'address' | 'merge' | 'mark' | 'erase' | null>(null)
const markAs = ref<'bounced' | 'complained'>('bounced')
const MARKS = [
  { value: 'bounced' as const, name: 'bounced: their address takes no mail' },
  { value: 'complained' as const, name: 'complained: they reported our mail as spam' },
]
const typed = ref('')
const at = computed(() => ({ id: view.value.person.id }))
const exported = computed(() => hrefOf('GET /subscribers/:id/export', { at: at.value }))

function open(which: NonNullable<typeof way.value>) {
  way.value = which
  typed.value = which === 'address' ? view.value.person.address : ''
  found.value = []
  other.value = null
  problem.value = null
}
async function changeAddress() {
  const [mine, before] = [at.value, view.value.person.address]
  const move = (address: string) => api('PUT /subscribers/:id/address', { at: mine, body: { address } })
  if (!await attempt(async () => view.value = await move(typed.value))) return
  way.value = null
  const { address } = view.value.person
  if (address !== before) undo.did({ said: `Their address is ${address} now.`, undo: () => putBack(
    async () => (await api('GET /subscribers/:id', { at: mine })).person.address, address, () => move(before),
  ) })
}
async function mark() {
  const body = { as: markAs.value, reason: typed.value }
  if (await attempt(async () => view.value = await api('POST /subscribers/:id/mark', { at: at.value, body }))) way.value = null
}
async function erase() {
  if (await attempt(() => api('DELETE /subscribers/:id', { at: at.value }))) await navigateTo('/subscribers')
}

/* Merging: the other one is found by any part of address or name. */
const found = ref<ListedPerson[]>([])
const other = ref<ListedPerson | null>(null)
const asked = useNewest()
watchDebounced(typed, (text) => {
  const isNewest = asked()
  if (way.value === 'merge' && text.trim().length >= 2) void attempt(async () => {
    const { rows } = await api('GET /subscribers', { query: { search: text }, asker: `merge-${performance.timeOrigin}` })
    if (isNewest()) found.value = rows.filter(({ id }) => id !== view.value.person.id).slice(0, 6)
  })
}, { debounce: 200 })
const result = computed(() => other.value && strictest(view.value.person.status, other.value.status))
async function merge() {
  const body = { otherId: other.value!.id, address: other.value!.address }
  if (await attempt(async () => view.value = await api('POST /subscribers/:id/merge', { at: at.value, body }))) way.value = null
}
</script>

<template>
  <section class="panel" aria-labelledby="record">
    <h2 id="record">This record</h2>
    <div class="panel-body ways">
      <button type="button" class="link-button" @click="open('address')">Change the address</button>
      <button type="button" class="link-button" @click="open('merge')">Merge with another record</button>
      <a :href="exported" download class="link">Everything about them as JSON</a>
      <button type="button" class="link-button" @click="open('mark')">Mark as bounced or complained</button>
      <button type="button" class="link-button danger" @click="open('erase')">Erase for good</button>
    </div>
    <p v-for="former in view.formerAddresses" :key="former.address + former.untilAt" class="row small second">
      <span class="mono">{{ former.address }}</span> until {{ sayDay(former.untilAt, props.zone, true) }}
    </p>

    <Dialog :visible="way === 'address'" modal header="Change the address" :style="{ width: '440px' }" @update:visible="way = null">
      <form class="fields" @submit.prevent="changeAddress">
        <div class="field">
          <label for="new-address">Address</label>
          <InputText id="new-address" v-model="typed" maxlength="400" autofocus autocomplete="off" :invalid="!!problem?.of('address')" />
          <ProblemNote :of="problem" at="address" whole />
        </div>
        <p class="second small">Unsent emails go to the new address. The old one stays in their history, and imports still recognise it.
          Status and consent stay as they are.</p>
        <div class="ends">
          <Button severity="secondary" label="Cancel" @click="way = null" />
          <Button type="submit" label="Change the address" :loading="busy" />
        </div>
      </form>
    </Dialog>

    <Dialog :visible="way === 'merge'" modal header="Merge with another record" :style="{ width: '500px' }" @update:visible="way = null">
      <form class="fields" @submit.prevent="merge">
        <div v-if="!other" class="field">
          <label for="merge-search">Who else is the same person?</label>
          <InputText
            id="merge-search" v-model="typed" maxlength="200" autofocus autocomplete="off" placeholder="any part of an address or name" />
          <button v-for="person in found" :key="person.id" type="button" class="found" @click="other = person">
            <span class="mono">{{ person.address }}</span> <span class="second">{{ person.firstName }} · {{ person.status }}</span>
          </button>
          <p v-if="typed.trim().length >= 2 && found.length === 0 && !busy" class="second small">Nobody found.</p>
        </div>
        <template v-else>
          <p>Everything of <strong class="mono">{{ other.address }}</strong> becomes that of
            <strong class="mono">{{ view.person.address }}</strong>: lists, tags, consent, courses, emails and history. This record’s
            address and details stay; gaps are filled.</p>
          <p>The status is then <strong>{{ result }}</strong>, the stricter of “{{ view.person.status }}” and “{{ other.status }}”. Lists
            that either has left stay left. Courses that both were in do not continue twice.</p>
          <p class="second small">This cannot be undone.</p>
        </template>
        <ProblemNote :of="problem" line class="small" />
        <div class="ends">
          <Button severity="secondary" :label="other ? 'Choose another' : 'Cancel'" @click="other ? other = null : way = null" />
          <Button v-if="other" type="submit" label="Merge the two" :loading="busy" />
        </div>
      </form>
    </Dialog>

    <Dialog :visible="way === 'mark'" modal header="Mark as bounced or complained" :style="{ width: '460px' }" @update:visible="way = null">
      <form class="fields" @submit.prevent="mark">
        <SelectField v-model="markAs" label="Mark as" :options="MARKS" />
        <div class="field">
          <label for="mark-reason">Reason</label>
          <InputText id="mark-reason" v-model="typed" maxlength="400" autofocus autocomplete="off" :invalid="!!problem?.of('reason')" />
        </div>
        <p class="second small">They will get no more email, and anything scheduled is withdrawn. Only they can undo this, by opting in again.</p>
        <ProblemNote :of="problem" at="reason" whole class="small" />
        <div class="ends">
          <Button severity="secondary" label="Cancel" @click="way = null" />
          <Button type="submit" :label="`Mark as ${markAs}`" :loading="busy" />
        </div>
      </form>
    </Dialog>

    <Dialog :visible="way === 'erase'" modal header="Erase for good" :style="{ width: '460px' }" @update:visible="way = null">
      <form class="fields" @submit.prevent="erase">
        <p>This erases all personal data of {{ view.person.address }}. It cannot be undone. Emails not sent yet are withdrawn, and totals
          stay as they are. An import cannot bring them back; they can opt in again.</p>
        <div class="field">
          <label for="erase-address">Type their address to erase them</label>
          <InputText id="erase-address" v-model="typed" autofocus autocomplete="off" />
        </div>
        <ProblemNote :of="problem" line class="small" />
        <div class="ends">
          <Button severity="secondary" label="Keep them" @click="way = null" />
          <Button
            type="submit" severity="danger" label="Erase for good"
            :disabled="typed.trim().toLowerCase() !== view.person.address.toLowerCase()" :loading="busy" />
        </div>
      </form>
    </Dialog>
  </section>
</template>

<style scoped>
.ways { display: grid; justify-items: start; gap: 4px; }
.link { font-weight: 600; }
.danger, .ends { display: flex; justify-content: flex-end; gap: 8px; }
.found {
  text-align: left; padding: 7px 10px; border: 1px solid var(--p-porch-line); border-radius: 6px; background: var(--p-porch-paper);
  cursor: pointer; overflow-wrap: anywhere;
}
.found:hover { border-color: var(--p-porch-door); }
</style>
