<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import { compareMessages } from '#core/message/compare'
import type { MessageContent } from '#core/message/content'
import type { SendOf } from '#core/sending/kinds'
import { sayMoment } from '#core/time/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'

/** The email as it was earlier, with what has changed since; any of it can be taken again. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ of: SendOf, now: MessageContent }>()
const emit = defineEmits<{ take: [content: MessageContent] }>()
const frame = useFrame()
const { problem, attempt } = useAttempt()
const versions = ref<{ id: number, at: number }[] | null>(null)
const shown = ref<{ id: number, content: MessageContent } | null>(null)
const open = (id: number) => attempt(async () => {
  const { content } = await api('GET /emails/earlier/:id', { at: { id } })
  shown.value = { id, content }
})
onMounted(() => attempt(async () => {
  versions.value = await api('POST /emails/earlier', { body: props.of })
  if (versions.value[0]) await open(versions.value[0].id)
}))
const compared = computed(() => shown.value ? compareMessages(shown.value.content, props.now) : [])
function take() {
  emit('take', shown.value!.content)
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Earlier versions" :style="{ width: '900px' }">
    <ProblemNote :of="problem" />
    <p v-if="versions?.length === 0">There is none yet. While you write, the email is kept every ten minutes as it was before.</p>
    <div v-else-if="versions" class="two">
      <ol aria-label="Earlier versions">
        <li v-for="one in versions" :key="one.id">
          <button type="button" class="link-button" :aria-current="shown?.id === one.id ? 'true' : undefined" @click="open(one.id)">
            until {{ sayMoment(one.at, frame.zone) }}</button>
        </li>
      </ol>
      <div v-if="shown" class="fields">
        <p class="second small"><ins>Added since</ins>, <del>taken out since</del>.</p>
        <section v-for="place in compared" :key="place.name" :aria-label="place.name">
          <h3>{{ place.name }}</h3>
          <p class="words"><template v-for="(stretch, n) in place.stretches" :key="n"><ins
            v-if="stretch.is === 'added'">{{ stretch.text }}</ins><del
            v-else-if="stretch.is === 'removed'">{{ stretch.text }}</del><template v-else>{{ stretch.text }}</template></template></p>
        </section>
        <p v-if="compared.length === 0" class="second">Its words are those of now.</p>
        <div class="end"><Button label="Take this version again" @click="take" /></div>
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.two { display: grid; grid-template-columns: 200px minmax(0, 1fr); gap: 20px; align-items: start; }
ol { list-style: none; margin: 0; padding: 0; display: grid; gap: 6px; max-height: 60vh; overflow: auto; }
[aria-current] { font-weight: 700; }
h3 { font: 650 14px/1.5 var(--body); }
.words { white-space: pre-wrap; overflow-wrap: anywhere; }
ins { background: var(--p-porch-spruce-ground); color: var(--p-porch-spruce); text-decoration: none; border-radius: 3px; }
del { background: var(--p-porch-brick-ground); color: var(--p-porch-brick); border-radius: 3px; }
.end { text-align: right; }
@media (max-width: 760px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
