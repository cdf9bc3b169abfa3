<script setup lang="ts">
import { computed, onMounted, ref, useId } from 'vue'
import { useElementSize, watchDebounced } from '@vueuse/core'
import { isWritten } from '#core/message/blocks'
import type { MessageContent } from '#core/message/content'
import type { EmailLook } from '#core/message/look'
import type { EmailKind } from '#core/sending/kinds'
import { hrefOf } from '~/composables/useApi'

/** An email in small, as it looks. */
const props = defineProps<{
  content: MessageContent, listId: number | null, kind: EmailKind, /** As it would look so. */ look?: EmailLook
}>()
const form = ref<HTMLFormElement>()
const mini = ref<HTMLElement>()
const { width } = useElementSize(mini)
/* As wide as the email is drawn; smaller where there is less room. */
const WIDTH = 640
const scale = computed(() => Math.min(0.7, width.value / WIDTH || 0.7))
const name = useId()
const asked = computed(() => JSON.stringify({
  content: props.content, listId: props.listId, kind: props.kind, ownerId: null, personId: null, firstName: 'Ines', chosen: null,
}))
const draw = () => form.value?.submit()
onMounted(draw)
watchDebounced([asked, () => props.look], draw, { debounce: 600 })
</script>

<template>
  <div ref="mini" class="mini" aria-hidden="true">
    <form ref="form" method="post" :action="hrefOf('POST /emails/preview/html', {})" :target="name" hidden>
      <input name="asked" :value="asked" /><input name="look" value="light" />
      <input v-if="look" name="emailLook" :value="JSON.stringify(look)" />
    </form>
    <iframe
      :name="name" title="The email in small" tabindex="-1" :class="{ empty: !isWritten(content) }"
      :style="{ transform: `scale(${scale})`, marginLeft: `calc(50% - ${WIDTH * scale / 2}px)` }" />
  </div>
</template>

<style scoped>
.mini { position: relative; height: 260px; overflow: hidden; border: 1px solid var(--p-porch-line); border-radius: 8px; background: #fff; }
.mini::after { content: ''; position: absolute; inset: auto 0 0; height: 40px; background: linear-gradient(transparent, #fff); }
iframe {
  width: 640px; height: 560px; border: 0; transform-origin: 0 0; pointer-events: none;
}
</style>
