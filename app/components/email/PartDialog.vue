<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { dequal } from 'dequal'
import { DEFAULT_LOOK, type EmailLook } from '#core/message/look'
import type { RichText } from '#core/message/content'
import type { EmailPartLine } from '#core/views/email'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useEmailParts } from '~/composables/useEmailParts'
import { tellAll } from '~/composables/useTellers'
import { saySome } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'
import UsesOf from '~/components/UsesOf.vue'
import EmailCanvas from './EmailCanvas.vue'

/** One part, written where it is kept. */
const props = defineProps<{ part: EmailPartLine | null, tags: { id: number, name: string }[] }>()
const emit = defineEmits<{ done: [], close: [] }>()
const { busy, problem, attempt } = useAttempt()
const name = ref(props.part?.name ?? '')
const EMPTY: RichText = { type: 'doc', content: [{ type: 'paragraph' }] }
const body = ref<RichText>(props.part?.body ?? EMPTY)
const { offers } = useEmailParts()
const look = ref<EmailLook>(DEFAULT_LOOK)
onMounted(async () => look.value = await api('GET /email-look').catch(() => DEFAULT_LOOK))
const places = computed(() => new Set(props.part?.uses.map(({ kind, id }) => `${kind} ${id}`)).size)

async function save() {
  tellAll()
  const written = { name: name.value, body: body.value }
  if (await attempt(async () => {
    if (props.part) await api('PUT /email-parts/:id', { at: { id: props.part.id }, body: written })
    else await api('POST /email-parts', { body: written })
  })) emit('done')
}
function close() {
  tellAll()
  const same = dequal(body.value, props.part?.body ?? EMPTY) && name.value === (props.part?.name ?? '')
  if (same || window.confirm('Close without keeping what you changed?')) emit('close')
}
</script>

<template>
  <Dialog visible modal class="over-all" :header="part ? part.name : 'A new part'" @update:visible="close">
    <div class="fields">
      <div class="field name">
        <label for="part-name">Name; readers never see it</label>
        <InputText id="part-name" v-model="name" maxlength="80" placeholder="Signature" :invalid="!!problem?.of('name')" />
        <ProblemNote :of="problem" at="name" />
      </div>
      <EmailCanvas v-model="body" label="The part" :own="false" :tags="tags" :list-id="null" :look="look" :offers="offers">
        <template #beside>
          <section v-if="part" class="panel panel-body" aria-label="Where it stands">
            <h2>Where it stands</h2>
            <p v-if="places === 0" class="second">In no email yet.</p>
            <UsesOf v-else kind="part" :id="part.id" />
          </section>
        </template>
      </EmailCanvas>
      <ProblemNote :of="problem" general />
    </div>
    <template #footer>
      <span v-if="places > 0" class="second small">{{ saySome(places, 'place shows it', 'places show it') }}: their emails that are not sent
        yet change with it.</span>
      <Button label="Keep it" :disabled="name.trim() === ''" :loading="busy" @click="save" />
    </template>
  </Dialog>
</template>

<style scoped>
.name { max-width: 360px; }
</style>
