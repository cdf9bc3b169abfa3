<script setup lang="ts">
import { ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import type { Outline } from '#core/sequence/outline'
import { newOutline } from '~/courses/beginnings'
import { saySome } from '#core/stats/say'
import OutlineForm from './OutlineForm.vue'

/** Adds several emails at the end of a course. */
const visible = defineModel<boolean>('visible', { required: true })
defineProps<{ first: boolean }>()
const emit = defineEmits<{ add: [outline: Outline] }>()
const outline = ref(newOutline())
function add() {
  visible.value = false
  emit('add', outline.value)
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Several emails" :style="{ width: '680px' }">
    <form class="fields" @submit.prevent="add">
      <OutlineForm v-model="outline" :first="first" />
      <div class="end"><Button type="submit" :label="`Add ${saySome(outline.lines.length, 'email', 'emails')}`" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.end { text-align: right; }
</style>
