<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { newReading, type HookReading } from '#core/hooks/reading'
import { sayMoment } from '#core/time/say'
import type { HooksView } from '#core/views/hooks'
import { useEnding } from '~/stores/ending'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import { putBack, useUndo } from '~/stores/undo'
import PageHead from '~/components/PageHead.vue'
import SelectField from '~/components/SelectField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Addresses outside that rules call, and addresses of ours that something outside calls. */
const frame = useFrame()
const ending = useEnding()
const undo = useUndo()
const zone = computed(() => frame.zone)
const { data: view, problem: loading, load } = useFresh(() => api('GET /hooks'))
const { busy, problem, attempt } = useAttempt()

type Editing = {
  way: 'out', id: number | null, name: string, url: string,
} | { way: 'in', id: number | null, name: string, reading: HookReading }
const editing = ref<Editing | null>(null)
const shown = ref<string | null>(null)
const PROOFS: { value: HookReading['proof'], name: string }[] = [
  { value: 'bearer', name: 'the secret in the authorization header' }, { value: 'signed', name: 'the Standard Webhooks signature' },
]
const MEANS: { value: HookReading['event'], name: string }[] = [
  { value: 'hook-called', name: 'an event that house rules can react to' }, { value: 'replied', name: 'that they replied to an email' },
]
const UNKNOWN: { value: HookReading['unknown'], name: string }[] = [
  { value: 'leave', name: 'is left out, and the call says so' }, { value: 'bring', name: 'becomes a subscriber' },
]

function open(next: Editing) {
  problem.value = null
  editing.value = next
}
const keepIn = ({ way: _, id, ...body }: Extract<Editing, { way: 'in' }>) =>
  id === null ? api('POST /hooks/in', { body }) : api('PUT /hooks/in/:id', { at: { id }, body })
const keepOut = ({ way: _, id, ...body }: Extract<Editing, { way: 'out' }>) =>
  id === null ? api('POST /hooks/out', { body }) : api('PUT /hooks/out/:id', { at: { id }, body })
/** As it was before it was edited; nothing of a new one. */
function hookBefore({ way, id }: Editing, of = view.value): Editing | null {
  if (way === 'out') {
    const hook = of?.out.find(one => one.id === id)
    return hook ? { way, id, name: hook.name, url: hook.url } : null
  }
  const hook = of?.in.find(one => one.id === id)
  return hook ? { way, id, name: hook.name, reading: hook.reading } : null
}
async function save() {
  const hook = editing.value!
  const before = hookBefore(hook)
  if (!await attempt(() => hook.way === 'in' ? keepIn(hook) : keepOut(hook))) return
  editing.value = null
  await load()
  if (!before) return
  const saved = hookBefore(hook)
  undo.did({
    said: `The changes to “${saved?.name ?? hook.name}” are saved.`,
    undo: () => putBack(
      async () => hookBefore(hook, await api('GET /hooks')), saved, () => before.way === 'in' ? keepIn(before) : keepOut(before),
    ),
  })
}
function remove(way: 'in' | 'out', id: number, name: string) {
  ending.ask({
    thing: { kind: way === 'out' ? 'hookOut' : 'hookIn', id }, header: `Delete ${name}?`, acceptLabel: 'Delete it',
    message: way === 'out'
      ? 'It is no longer called. Calls still waiting for it are dropped.'
      : 'Calls to its address are refused from then on.',
    accept: async () => {
      await api(`DELETE /hooks/${way}/:id`, { at: { id } })
      await load()
    },
  })
}
const again = async (id: number) => {
  if (await attempt(() => api('POST /hooks/deliveries/:id', { at: { id } }))) await load()
}
const allow = async (allows: boolean) => {
  if (!await attempt(() => api('PUT /hooks/inside', { body: { allows } }))) return
  await load()
  undo.did({
    said: allows ? 'Addresses inside your network may be called.' : 'Addresses inside your network are not called.',
    undo: () => api('PUT /hooks/inside', { body: { allows: !allows } }),
  })
}
type Delivery = HooksView['deliveries'][number]
function fate({ state, tries, nextAt, status, problem: said }: Delivery): string {
  if (state === 'delivered') return `taken (${status})${tries > 1 ? ` at the ${tries}th try` : ''}`
  if (state === 'given up') return `failed after ${saySome(tries, 'try', 'tries')}: ${said}`
  return tries === 0 ? 'next to be called' : `${said}; tried again ${sayMoment(nextAt!, zone.value)}`
}
</script>

<template>
  <div>
    <PageHead title="Webhooks" how="webhook" :back="{ to: '/settings', name: 'Settings' }">
      House rules can call other services, and other services can call in about a subscriber. In practice nothing leaves: a stand-in
      answers.
    </PageHead>
    <ProblemNote :of="loading ?? (editing ? null : problem)" />
    <div v-if="view" class="columns two">
      <div class="stack">
        <section class="panel" aria-labelledby="out">
          <div class="panel-head">
            <h2 id="out">Outgoing: called by house rules</h2>
            <Button
              label="New address" size="small" severity="secondary" @click="open({ way: 'out', id: null, name: '', url: 'https://' })" />
          </div>
          <div v-for="hook in view.out" :key="hook.id" class="row">
            <p class="line">
              <button type="button" class="link-button" @click="open({ way: 'out', id: hook.id, name: hook.name, url: hook.url })">
                {{ hook.name }}
              </button>
              <span class="mono second cut">{{ hook.url }}</span>
              <button type="button" class="link-button small end" @click="remove('out', hook.id, hook.name)">Delete</button>
            </p>
            <p class="small second">Signed with <button type="button" class="link-button small" @click="shown = shown === `o${hook.id}`
              ? null : `o${hook.id}`">{{ shown === `o${hook.id}` ? hook.secret : 'its secret' }}</button></p>
          </div>
          <p v-if="!view.out.length" class="panel-body second">None yet. A rule can call a print shop, or a service that sends text
            messages.</p>
          <p class="row">
            <label class="tick small"><Checkbox :model-value="view.allowsInside" binary @update:model-value="allow" /> Calls may also go
              into private networks, like this machine or one beside it</label>
          </p>
        </section>
        <section class="panel" aria-labelledby="in">
          <div class="panel-head">
            <h2 id="in">Incoming: one address per purpose</h2>
            <Button
              label="New address" size="small" severity="secondary" @click="open({ way: 'in', id: null, name: '', reading: newReading() })"
            />
          </div>
          <div v-for="hook in view.in" :key="hook.id" class="row">
            <p class="line">
              <button
                type="button" class="link-button" @click="open({ way: 'in', id: hook.id, name: hook.name, reading: { ...hook.reading } })">
                {{ hook.name }}
              </button>
              <button type="button" class="link-button small end" @click="remove('in', hook.id, hook.name)">Delete</button>
            </p>
            <p class="mono small address">{{ hook.url }}</p>
            <p class="small second">Callers sign in with
              {{ hook.reading.proof === 'signed' ? 'a signature made with' : 'the authorization header, which holds' }}
              <button
                type="button" class="link-button small"
                @click="shown = shown === `i${hook.id}` ? null : `i${hook.id}`">{{ shown === `i${hook.id}`
                  ? hook.secret
                  : 'its secret' }}</button>; the subscriber’s address is at <span class="mono">{{ hook.reading.emailAt }}</span>.</p>
          </div>
          <p v-if="!view.in.length" class="panel-body second">None yet. Your booking form could call in, and a house rule add the
            tag “has booked”.</p>
        </section>
      </div>
      <div class="stack">
        <section class="panel" aria-labelledby="deliveries">
          <h2 id="deliveries">Recent outgoing calls</h2>
          <div v-for="call in view.deliveries" :key="call.id" class="row call">
            <p class="line">
              <strong>{{ call.hook }}</strong>
              <NuxtLink v-if="call.person" :to="`/subscribers/${call.person.id}`">{{ call.person.name }}</NuxtLink>
              <span class="second small end">{{ sayMoment(call.madeAt, zone) }}</span>
            </p>
            <p class="small" :class="call.state === 'given up' ? 'wrong' : 'second'">
              {{ fate(call) }} <button v-if="call.state !== 'waiting'" type="button" class="link-button small" @click="again(call.id)">Send
                it again</button> <button
                type="button" class="link-button small" :aria-expanded="shown === `d${call.id}`"
                @click="shown = shown === `d${call.id}` ? null : `d${call.id}`">What is sent</button>
            </p>
            <pre v-if="shown === `d${call.id}`" class="mono small body">{{ JSON.stringify(JSON.parse(call.body), null, 2) }}</pre>
          </div>
          <p v-if="!view.deliveries.length" class="panel-body second">None yet.</p>
        </section>
        <section class="panel" aria-labelledby="calls">
          <h2 id="calls">Recent incoming calls</h2>
          <p v-for="(call, n) in view.calls" :key="n" class="row line">
            <strong>{{ call.hook }}</strong>
            <NuxtLink v-if="call.person" :to="`/subscribers/${call.person.id}`">{{ call.person.name }}</NuxtLink>
            <span v-else class="small wrong">{{ call.problem }}</span>
            <span class="second small end">{{ sayMoment(call.at, zone) }}</span>
          </p>
          <p v-if="!view.calls.length" class="panel-body second">None yet.</p>
        </section>
      </div>
    </div>

    <Dialog
      v-if="editing" visible modal :header="editing.way === 'out' ? 'Outgoing webhook' : 'Incoming webhook'"
      :style="{ width: '500px' }" @update:visible="editing = null">
      <form class="fields" @submit.prevent="save">
        <div class="field">
          <label for="hook-name">Name</label>
          <InputText
            id="hook-name" v-model="editing.name" maxlength="80" autofocus
            :placeholder="editing.way === 'out' ? 'the print shop' : 'the booking form'" :invalid="!!problem?.of('name')" />
          <ProblemNote :of="problem" at="name" />
        </div>
        <div v-if="editing.way === 'out'" class="field">
          <label for="hook-url">Address</label>
          <InputText id="hook-url" v-model="editing.url" maxlength="2000" class="mono" :invalid="!!problem?.of('url')" />
          <ProblemNote :of="problem" at="url" />
        </div>
        <template v-else>
          <SelectField v-model="editing.reading.proof" label="How callers sign in" :options="PROOFS" />
          <div class="field">
            <label for="hook-email">Where the subscriber’s address is in the JSON</label>
            <InputText
              id="hook-email" v-model="editing.reading.emailAt" maxlength="120" class="mono" :invalid="!!problem?.of('reading.emailAt')" />
            <ProblemNote :of="problem" at="reading.emailAt" />
          </div>
          <div class="field">
            <label for="hook-first">Where their first name is (optional)</label>
            <InputText
              id="hook-first" v-model="editing.reading.nameAt" maxlength="120" class="mono" :invalid="!!problem?.of('reading.nameAt')" />
            <ProblemNote :of="problem" at="reading.nameAt" />
          </div>
          <SelectField v-model="editing.reading.event" label="What a call does" :options="MEANS" />
          <SelectField v-model="editing.reading.unknown" label="Unknown person" :options="UNKNOWN" />
        </template>
        <ProblemNote :of="problem" general />
        <div class="ends"><Button type="submit" label="Save it" :loading="busy" /></div>
      </form>
    </Dialog>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1.1fr) minmax(0, 1fr); }
.line { display: flex; gap: 10px; align-items: baseline; min-width: 0; }
.end { margin-left: auto; white-space: nowrap; }
.address { overflow-wrap: anywhere; }
.tick { display: inline-flex; align-items: center; gap: 6px; }
.wrong { color: var(--p-porch-brick); }
.body { margin: 6px 0 0; padding: 8px 10px; border-radius: 6px; background: var(--p-porch-rail); overflow: auto; max-height: 260px; }
.ends { display: flex; justify-content: flex-end; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
