<script setup lang="ts">
import { ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { Condition } from '#core/audience/condition'
import type { ConditionParts } from '#core/views/audience'
import { useFirstField } from '~/composables/useFirstField'
import { ConditionEditor } from '~/editor/lazy'

/** Whom it is for, and whom never, said in a sentence. */
const visible = defineModel<boolean>('visible', { required: true })
/** `parts`: what its conditions can be about, once that is there. */
const props = defineProps<{ was: Condition, parts: ConditionParts | null }>()
const emit = defineEmits<{ done: [who: Condition] }>()
useFirstField('form')
const who = ref<Condition>(props.was)
watch(visible, (now) => {
  if (now) who.value = props.was
})
function done() {
  emit('done', who.value)
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="People who get it, and people who never do" :style="{ width: '760px' }">
    <div ref="form" class="fields">
      <ConditionEditor v-if="parts" v-model="who" :segment-id="null" />
      <p class="second small">The audience is settled when sending begins. People who match later do not get it. People who come under
        “never” before their email leaves do not get it either.</p>
      <div class="end"><Button label="Use this" @click="done" /></div>
    </div>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
