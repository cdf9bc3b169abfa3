<script setup lang="ts">
import { ref, watch } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import InputText from 'primevue/inputtext'
import { useAttempt } from '~/composables/useAttempt'
import ProblemNote from '~/components/ProblemNote.vue'

/** Asks for a name, and whatever else stands in its slot, and makes something with it. */
const props = defineProps<{ title: string, label: string, example: string, action: string, make: (
  name: string,
) => Promise<void>, width?: string }>()
const visible = defineModel<boolean>('visible', { required: true })

const name = ref('')
const { busy, problem, attempt } = useAttempt()
watch(visible, () => {
  name.value = ''
  problem.value = null
})

async function submit() {
  if (await attempt(() => props.make(name.value))) visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="title" :style="{ width: width ?? '420px' }">
    <form class="fields" @submit.prevent="submit">
      <div class="field">
        <label for="new-name">{{ label }}</label>
        <InputText id="new-name" v-model="name" :placeholder="example" autofocus maxlength="120" :invalid="!!problem" />
        <ProblemNote :of="problem" at="name" whole />
      </div>
      <slot />
      <div class="end"><Button type="submit" :label="action" :loading="busy" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
