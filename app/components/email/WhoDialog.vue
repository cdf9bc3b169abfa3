<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { EVERYBODY, leavesOf, type Condition } from '#core/audience/condition'
import { provideParts } from '~/composables/useParts'
import ProblemNote from '~/components/ProblemNote.vue'
import { ConditionEditor } from '~/editor/lazy'

/** Whom a version of an email is for. */
export interface ForWhom { who: Condition, name: string | null }
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ was: ForWhom | null }>()
const emit = defineEmits<{ done: [now: ForWhom] }>()
const { parts, problem } = provideParts()
const who = ref<Condition>(EVERYBODY)
const name = ref('')
watch(visible, (now) => {
  if (!now) return
  who.value = props.was?.who ?? EVERYBODY
  name.value = props.was?.name ?? ''
}, { immediate: true })
const chosen = computed(() => leavesOf(who.value).length > 0)
function done() {
  emit('done', { who: who.value, name: name.value.trim() || null })
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="People who get this version" :style="{ width: '760px' }">
    <div class="fields">
      <ProblemNote :of="problem" />
      <ConditionEditor v-if="parts" v-model="who" :segment-id="null" />
      <div class="field">
        <label for="case-name">What you call them, if the sentence is long</label>
        <InputText id="case-name" v-model="name" maxlength="60" placeholder="Buyers of the sampler" />
      </div>
      <p class="second small">It is looked at for each reader at the moment the email leaves.</p>
      <div class="end"><Button label="Use this" :disabled="!chosen" @click="done" /></div>
    </div>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
