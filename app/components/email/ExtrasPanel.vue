<script setup lang="ts">
import { computed, ref } from 'vue'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { MOST_ATTACHED, weightOf } from '#core/message/attached'
import { linksOf } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import { withUtm, type Utm } from '#core/message/utm'
import { sayBytes } from '#core/stats/say'
import FileField from '~/components/FileField.vue'

/** What goes with an email besides its words: a link to itself in a browser, values on its links, files. */
const mail = defineModel<MessageContent>({ required: true })
const props = defineProps<{ /** It is sent to people who asked to be on a list. */ isWatched: boolean, workspace: string }>()
const set = (change: Partial<MessageContent>) => mail.value = { ...mail.value, ...change }

const slug = (text: string) => text.toLowerCase().normalize('NFKD').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '').slice(0, 60)
const usual = computed<Utm>(() => ({ source: slug(props.workspace), medium: 'email', campaign: slug(mail.value.workingTitle) }))
const put = (change: Partial<Utm>) => set({ utm: { ...mail.value.utm!, ...change } })
const VALUES = [{ key: 'source', name: 'Source' }, { key: 'medium', name: 'Medium' }, { key: 'campaign', name: 'Campaign' }] as const
/** As a link of this email leads on, or any link where it has none yet. */
const sample = computed(() => {
  const url = linksOf(mail.value.body).find(({ answers, url: to }) => !answers && URL.canParse(to))?.url ?? 'https://example.com/'
  return withUtm(url, mail.value.utm)
})

const attached = computed(() => mail.value.attached ?? [])
const adding = ref<number | null>(null)
function attach(file: { id: number, name: string, bytes: number }) {
  set({ attached: [...attached.value, { fileId: file.id, name: file.name, bytes: file.bytes }] })
  adding.value = null
}
function detach(n: number) {
  const left = attached.value.filter((_, at) => at !== n)
  set({ attached: left.length > 0 ? left : undefined })
}
</script>

<template>
  <section class="panel" aria-labelledby="extras">
    <div class="panel-head"><h2 id="extras">Links and files</h2></div>
    <div class="panel-body fields">
      <label class="tick">
        <Checkbox
          :model-value="mail.inBrowser === true" binary @update:model-value="(on: boolean) => set({ inBrowser: on || undefined })" />
        Begin with a link to read it in a browser
      </label>
      <template v-if="isWatched">
        <label class="tick">
          <Checkbox
            :model-value="mail.unwatched !== true" binary
            @update:model-value="(on: boolean) => set({ unwatched: on ? undefined : true })" />
          Count who opens it
        </label>
        <p v-if="mail.unwatched" class="small second">Clicks are counted. People who only open it look silent.</p>
        <label class="tick">
          <Checkbox
            :model-value="mail.utm !== undefined" binary @update:model-value="(on: boolean) => set({ utm: on ? usual : undefined })" />
          Add utm values to its links
        </label>
        <div v-if="mail.utm" class="utm">
          <template v-for="{ key, name } in VALUES" :key="key">
            <label :for="`utm-${key}`" class="small">{{ name }}</label>
            <InputText
              :id="`utm-${key}`" :model-value="mail.utm[key]" size="small" maxlength="60"
              @update:model-value="value => put({ [key]: value ?? '' })" />
          </template>
          <p class="small second sample">A click leads to <span class="mono">{{ sample }}</span></p>
        </div>
      </template>
      <div class="field">
        <span class="label">Attached files</span>
        <p v-for="(file, n) in attached" :key="n" class="file">
          <i class="pi pi-paperclip" aria-hidden="true" /><span class="cut">{{ file.name }}</span>
          <span class="second small weight">{{ sayBytes(file.bytes) }}</span>
          <button type="button" class="link-button small" :aria-label="`Detach ${file.name}`" @click="detach(n)">Detach</button>
        </p>
        <p v-if="attached.length" class="small second">{{ sayBytes(weightOf(attached)) }} more for every reader.</p>
        <FileField v-if="attached.length < MOST_ATTACHED" v-model="adding" :known="null" label="File to attach" @brought="attach">
          Better: put a file into the email with “/file”. Readers fetch it when they want it.
        </FileField>
      </div>
    </div>
  </section>
</template>

<style scoped>
.tick { display: flex; gap: 8px; align-items: center; }
.utm { display: grid; grid-template-columns: auto minmax(0, 1fr); gap: 6px 10px; align-items: center; }
.sample { grid-column: 1 / -1; overflow-wrap: anywhere; }
.file { display: flex; gap: 8px; align-items: baseline; min-width: 0; }
.weight { white-space: nowrap; }
.file .link-button { margin-left: auto; }
</style>
