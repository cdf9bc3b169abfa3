<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import SelectButton from 'primevue/selectbutton'
import { sayMoment, sayZone } from '#core/time/say'
import type { MailView } from '#core/views/mailbox'
import { api, hrefOf } from '~/composables/useApi'
import { useAddress, useSearchBox } from '~/composables/useAddress'
import { useFresh } from '~/composables/useFresh'
import { useNewest } from '~/composables/useNewest'
import { sayBytes, saySome } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import PageHead from '~/components/PageHead.vue'
import TablePages from '~/components/TablePages.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const zone = computed(() => frame.zone)
const { values, set } = useAddress({ search: '', page: '0', mail: '' })
const { data: box, problem } = useFresh(
  () => api('GET /mailbox', { query: { search: values.value.search, page: values.value.page } }),
  () => [values.value.search, values.value.page])

const typed = useSearchBox(() => values.value.search, search => set({ search }))

const openId = computed(() => Number(values.value.mail) || box.value?.rows[0]?.id || null)
const mail = ref<MailView | null>(null)
const mailProblem = ref<string | null>(null)
const asked = useNewest()
async function read() {
  const isNewest = asked()
  const id = openId.value
  if (id === null) {
    mail.value = null
    return
  }
  try {
    const answer = await api('GET /mailbox/:id', { at: { id } })
    if (!isNewest()) return
    mail.value = answer
    mailProblem.value = null
  }
  catch (error) {
    if (isNewest()) mailProblem.value = (error as Error).message
  }
}
watch([openId, () => frame.moved], read, { immediate: true })

/** Only an email that somebody chose to look at fetches its picture: the first one lies there unopened. */
const chosen = computed(() => values.value.mail !== '')
type Side = 'look' | 'text' | 'source'
const side = ref<Side>('look')
const SIDES: { name: string, value: Side }[] = [
  { name: 'As it looks', value: 'look' }, { name: 'Text', value: 'text' }, { name: 'Source', value: 'source' },
]
async function opened() {
  // The picture has been fetched by now: show the open in the list, too.
  await api('GET /mailbox', { query: { search: values.value.search, page: values.value.page } }).then(answer =>
    box.value = answer)
  await read()
}
</script>

<template>
  <div class="mailbox">
    <PageHead title="Practice mailbox" how="practice">
      <template v-if="box">{{ saySome(box.total, 'email', 'emails') }}{{ values.search ? ' found' : ' delivered here' }}. Nothing has left
        this machine.</template>
    </PageHead>
    <ProblemNote :of="problem" />

    <section v-if="box && box.total === 0 && !values.search" class="panel panel-body">
      <h2>No mail yet</h2>
      <p class="second">Opt in on one of your pages, as ada@example.com for example, then move the clock at the foot of the screen. What
        they would get arrives here.</p>
    </section>
    <div v-else-if="box" class="columns two">
      <section class="panel list" aria-label="Emails">
        <div class="find">
          <InputText v-model="typed" placeholder="part of an address, name or subject" aria-label="Find an email" maxlength="200" />
        </div>
        <ul>
          <li v-for="row in box.rows" :key="row.id">
            <NuxtLink
              :to="{ query: { ...($route.query), mail: row.id } }" replace class="row line" :class="{ here: row.id === openId }"
              :aria-current="row.id === openId ? 'true' : undefined">
              <span class="cut" :class="{ unread: !row.openedAt }">{{ row.subject }}</span>
              <span class="second small when">{{ sayMoment(row.at, zone) }}</span>
              <span class="second small cut">{{ row.toName ? `${row.toName}, ` : '' }}{{ row.toAddress }}</span>
              <span class="small when did">{{ row.clickedAt ? 'clicked' : row.openedAt ? 'opened' : '' }}</span>
            </NuxtLink>
          </li>
        </ul>
        <p v-if="box.rows.length === 0" class="panel-body second">No email fits “{{ values.search }}”.</p>
        <TablePages
          :page="Number(values.page)" :page-size="box.pageSize" :total="box.total" :shown="box.rows.length" one="email" many="emails"
          @go="page => set({ page: String(page), mail: '' })" />
      </section>

      <section class="panel letter" aria-label="The email">
        <ProblemNote v-if="mailProblem" :of="mailProblem" line class="panel-body" />
        <template v-else-if="mail">
          <header class="top">
            <h2>{{ mail.subject }}</h2>
            <p class="second small">From {{ mail.from }}<br />To <NuxtLink
              v-if="mail.personId" :to="`/subscribers/${mail.personId}`">{{ mail.to }}</NuxtLink><template
              v-else>{{ mail.to }}</template><br />{{ sayMoment(mail.at, zone) }}, {{ sayZone(zone) }}<template v-if="mail.openedAt">. First
              opened {{ sayMoment(mail.openedAt, zone) }}</template><template v-if="mail.clickedAt">, clicked
              {{ sayMoment(mail.clickedAt, zone) }}</template></p>
            <p v-for="(file, n) in mail.attached" :key="n" class="small"><i class="pi pi-paperclip" aria-hidden="true" /> {{ file.name }}
              <span class="second">{{ sayBytes(file.bytes) }} on its way</span></p>
            <div class="tools">
              <SelectButton
                v-model="side" :options="SIDES" option-label="name" option-value="value" :allow-empty="false" size="small"
                aria-label="How to read it" />
              <Button
                as="a" :href="hrefOf('GET /mailbox/:id/source', { at: { id: mail.id } })"
                size="small" severity="secondary" icon="pi pi-download" label="Save as .eml"
              />
            </div>
          </header>
          <template v-if="side === 'look'">
            <iframe v-if="chosen" :key="mail.id"
                    :src="hrefOf('GET /mailbox/:id/html', { at: { id: mail.id } })" title="The email as it looks" @load="opened" />
            <div v-else class="panel-body">
              <Button label="Open this email" severity="secondary" @click="set({ mail: String(mail.id) })" />
              <p v-if="mail.isWatched" class="second small">
                Opening it counts as this reader’s open, as it would in their mail program.
              </p>
              <p v-else class="second small">Opening this email is not counted.</p>
            </div>
          </template>
          <pre v-else class="mono" tabindex="0" aria-label="The email">{{ side === 'text' ? mail.text : mail.source }}</pre>
        </template>
      </section>
    </div>
  </div>
</template>

<style scoped>
.mailbox { display: flex; flex-direction: column; height: 100%; min-height: 460px; }
.two { grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr); flex: 1; min-height: 0; align-items: stretch; }
.list, .letter { display: flex; flex-direction: column; min-height: 0; }
.find { padding: 10px 12px; border-bottom: 1px solid var(--p-porch-line-light); }
.find input { width: 100%; }
ul { margin: 0; padding: 0; list-style: none; overflow: auto; flex: 1; }
.line { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 12px; color: inherit; padding-block: 8px; }
.line:hover { background: var(--p-porch-rail); }
.line.here { background: var(--p-porch-line-light); }
.unread { font-weight: 650; }
.when { text-align: right; }
.did { color: var(--p-porch-spruce); }
.top { padding: 12px 16px; border-bottom: 1px solid var(--p-porch-line-light); display: grid; gap: 8px; }
.tools { display: flex; justify-content: space-between; gap: 8px; flex-wrap: wrap; }
iframe { flex: 1; width: 100%; border: 0; background: #fff; border-radius: 0 0 8px 8px; min-height: 260px; }
pre { flex: 1; margin: 0; padding: 14px 16px; overflow: auto; white-space: pre-wrap; overflow-wrap: anywhere; }
@media (max-width: 760px) { .mailbox { height: auto; } .two { grid-template-columns: minmax(0, 1fr); } }
</style>
