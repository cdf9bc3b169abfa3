<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import { sayMoment } from '#core/time/say'
import { API_AREAS, type ApiArea, type Scope } from '#core/views/keys'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** Keys by which programs come in: each with what it may do; the key itself is shown once. */
const frame = useFrame()
const toast = useToast()
const confirm = useConfirm()
const zone = computed(() => frame.zone)
const { data: view, problem: loading, load } = useFresh(() => api('GET /keys'))
const { busy, problem, attempt } = useAttempt()

const AREAS: Record<ApiArea, string> = {
  people: 'Subscribers', tags: 'Tags', lists: 'Lists', events: 'What happened', courses: 'Courses', broadcasts: 'Broadcasts',
  pages: 'Opt-in pages',
  offers: 'Offers', rules: 'House rules',
  links: 'Links', segments: 'Segments', purchases: 'Purchases', clock: 'The clock',
}
type May = 'nothing' | 'read' | 'write'
const WAYS: { value: May, name: string }[] = [
  { value: 'nothing', name: 'nothing' }, { value: 'read', name: 'read' }, { value: 'write', name: 'read and change' },
]
/** What happened can only be read, and only the practice clock can be moved. */
const waysOf = (area: ApiArea) => area === 'events' || (area === 'clock' && frame.mode === 'live') ? WAYS.slice(0, 2) : WAYS

const making = ref<{ name: string, may: Record<ApiArea, May> } | null>(null)
const secret = ref<string | null>(null)
const scopesOf = (may: Record<ApiArea, May>): Scope[] =>
  API_AREAS.filter(area => may[area] !== 'nothing').map(area => `${area}:${may[area]}` as Scope)

function open() {
  problem.value = null
  making.value = { name: '', may: Object.fromEntries(API_AREAS.map(area => [area, 'nothing'])) as Record<ApiArea, May> }
}
async function make() {
  const { name, may } = making.value!
  const made = await attempt(async () => {
    secret.value = (await api('POST /keys', { body: { name, scopes: scopesOf(may) } })).secret
  })
  if (!made) return
  making.value = null
  await load()
}
async function copy() {
  await navigator.clipboard.writeText(secret.value!)
  toast.add({ severity: 'success', summary: 'Copied', life: 5000 })
}
function remove(id: number, name: string) {
  confirm.require({
    header: `Revoke the key of ${name}?`,
    message: 'Programs that use it are refused from now on. A revoked key cannot be restored, but you can make a new one.',
    acceptLabel: 'Revoke it', rejectLabel: 'Keep it', rejectProps: { severity: 'secondary' },
    accept: async () => {
      if (await attempt(() => api('DELETE /keys/:id', { at: { id } }))) await load()
    },
  })
}
/** “may see and change subscribers, tags; see courses” */
function sayScopes(scopes: Scope[]): string {
  const named = (way: 'read' | 'write') =>
    scopes.filter(scope => scope.endsWith(`:${way}`)).map(scope => AREAS[scope.split(':')[0] as ApiArea].toLowerCase()).join(', ')
  return [named('write') && `see and change ${named('write')}`, named('read') && `see ${named('read')}`].filter(Boolean).join('; ')
}
</script>

<template>
  <div>
    <PageHead
      title="API keys" :back="{ to: '/settings', name: 'Settings' }">Your shop, script or spreadsheet can read and change things here,
      each with its own key. Practice and live have different keys.<template #actions><Button label="New key" @click="open" />
      </template></PageHead>
    <ProblemNote :of="loading ?? (making ? null : problem)" />
    <div v-if="view" class="columns two">
      <section class="panel" aria-labelledby="keys">
        <h2 id="keys">Keys</h2>
        <div v-for="key in view.keys" :key="key.id" class="row">
          <p class="line">
            <strong>{{ key.name }}</strong>
            <span class="mono second">…{{ key.hint }}</span>
            <button
              type="button" class="link-button small end" :aria-label="`Revoke the key of ${key.name}`" @click="remove(key.id,
                                                                                                                       key.name)">Revoke
              it</button>
          </p>
          <p class="small">May {{ sayScopes(key.scopes) }}.</p>
          <p class="small second">Created {{ sayMoment(key.madeAt, zone) }} and
            {{ key.lastUsedAt === null ? 'never used' : `last used ${sayMoment(key.lastUsedAt, zone)}` }}.</p>
        </div>
        <p v-if="!view.keys.length" class="panel-body second">No keys yet. Make one for each program, so that you can revoke one without
          stopping the others.</p>
      </section>
      <section class="panel panel-body fields" aria-labelledby="how">
        <h2 id="how">For developers</h2>
        <p>Requests go to <span class="mono address">{{ view.url }}</span>, with the key in a header:</p>
        <pre class="mono small code address">curl {{ view.url }}/people \
  -H "Authorization: Bearer porch_{{ frame.mode }}_…"</pre>
        <p>All requests, with examples, are described in one OpenAPI document:
          <a :href="`${view.url}/openapi.json`" target="_blank" rel="noopener">openapi.json</a> (OpenAPI 3.1).</p>
        <p class="second">A request with an <span class="mono">Idempotency-Key</span> is done once, however often it is sent within a
          day. Each key may make 120 requests a minute.</p>
      </section>
    </div>

    <Dialog v-if="making" visible modal header="New key" :style="{ width: '560px' }" @update:visible="making = null">
      <form class="fields" @submit.prevent="make">
        <div class="field">
          <label for="key-name">Name of the program</label>
          <InputText id="key-name" v-model="making.name" maxlength="80" autofocus placeholder="the shop" :invalid="!!problem?.of('name')" />
          <ProblemNote :of="problem" at="name" />
        </div>
        <div class="may" role="group" aria-label="Permissions">
          <template v-for="area in API_AREAS" :key="area">
            <span>{{ AREAS[area] }}</span>
            <SelectButton
              v-model="making.may[area]" :options="waysOf(area)" option-label="name" option-value="value" :allow-empty="false" size="small"
              :aria-label="AREAS[area]" />
          </template>
        </div>
        <p class="hint">Changing subscribers includes adding them and erasing them for good.</p>
        <ProblemNote :of="problem" at="scopes" />
        <ProblemNote :of="problem" general />
        <div class="ends"><Button type="submit" label="Make it" :loading="busy" /></div>
      </form>
    </Dialog>
    <Dialog v-if="secret" visible modal header="The key" :style="{ width: '560px' }" :closable="false" :close-on-escape="false">
      <div class="fields">
        <p>The key is shown only this once. Copy it into your program now.</p>
        <p class="mono code address" data-key>{{ secret }}</p>
        <div class="ends">
          <Button label="Copy" icon="pi pi-copy" severity="secondary" @click="copy" />
          <Button label="Done" @click="secret = null" />
        </div>
      </div>
    </Dialog>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); }
.line { display: flex; gap: 10px; align-items: baseline; }
.end { margin-left: auto; white-space: nowrap; }
.address { overflow-wrap: anywhere; }
.code { margin: 0; padding: 10px 12px; border-radius: 6px; background: var(--p-porch-rail); white-space: pre-wrap; }
.may { display: grid; grid-template-columns: max-content 1fr; gap: 8px 16px; align-items: center; }
.ends { display: flex; gap: 10px; justify-content: flex-end; }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
