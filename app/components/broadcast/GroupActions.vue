<script setup lang="ts">
import { computed, ref } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { groupOf, GROUP_WORDS, type Group } from '#core/broadcast/again'
import { sayPeople } from '#core/stats/say'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useMarks } from '~/composables/useMarks'
import { useFrame } from '~/stores/frame'
import ProblemNote from '~/components/ProblemNote.vue'
import SelectField from '~/components/SelectField.vue'

/** What can be done with one of the four groups of a sent email: tagged, kept as a segment, written to. */
const props = defineProps<{ id: number, name: string, group: Group, people: number }>()
const emit = defineEmits<{ done: [said: string] }>()
const frame = useFrame()
const { tags } = useMarks()
const where = computed(() => groupOf(props.id, props.group))
const tagId = ref<number | null>(null)
const options = computed(() => tags.value.map(({ id: value, name }) => ({ value: value as number | null, name })))
const { busy, problem, attempt } = useAttempt()
const tag = () => attempt(async () => {
  await api('POST /tasks', { body: {
    whom: { kind: 'all', query: { where: JSON.stringify(where.value) } }, doing: { kind: 'give-tag', tagId: tagId.value! },
    said: props.people,
  } })
  emit('done', `The tag is being added to ${sayPeople(props.people)}.`)
})
const segment = () => attempt(async () => {
  const { id } = await api('POST /segments', { body: {
    name: `${props.name}: ${GROUP_WORDS[props.group]}`.slice(0, 80), note: '', condition: where.value,
  } })
  await navigateTo(`/segments/${id}`)
})
const write = () => attempt(async () => {
  const { id } = await api('POST /broadcasts', { body: { from: null, who: where.value } })
  await frame.changed()
  await navigateTo(`/broadcasts/${id}?part=email`)
})
</script>

<template>
  <div class="fields group">
    <div class="line">
      <SelectField v-model="tagId" label="Add a tag to them" :options="options" filter placeholder="choose a tag" class="tag" />
      <Button label="Add it" severity="secondary" size="small" :disabled="tagId === null || busy" @click="tag" />
    </div>
    <div class="line">
      <Button label="Write to them" size="small" :loading="busy" @click="write" />
      <Button label="Keep as a segment" severity="secondary" size="small" :disabled="busy" @click="segment" />
    </div>
    <ProblemNote :of="problem" general />
  </div>
</template>

<style scoped>
.group { padding-bottom: 12px; }
.line { display: flex; gap: 8px; align-items: end; }
.tag { flex: 1; min-width: 0; }
</style>
