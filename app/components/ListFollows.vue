<script setup lang="ts">
import { computed } from 'vue'
import Select from 'primevue/select'
import type { AlsoOn } from '#core/rules/shortForms'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import ProblemNote from '~/components/ProblemNote.vue'

/** Who is on this list is on others, too, perhaps only once a course is finished. */
const alsoOn = defineModel<AlsoOn[]>({ required: true })
const props = defineProps<{ listId: number | null, lists: { id: number, name: string }[], problem: string | undefined }>()
const { data: courses } = useFresh(() => api('GET /courses'))
const others = computed(() => props.lists.filter(list => list.id !== props.listId))
const after = computed(() =>
  [{ id: 0, name: 'at once' }, ...(courses.value ?? []).map(({ id, name }) => ({ id, name: `once ${name} is finished` }))])
const change = (n: number, part: Partial<AlsoOn>) => alsoOn.value = alsoOn.value.map((one, at) => at === n ? { ...one, ...part } : one)
const add = () => alsoOn.value = [...alsoOn.value, { listId: others.value[0]!.id, afterCourseId: null }]
</script>

<template>
  <fieldset v-if="others.length" class="fields">
    <legend class="second small">When someone joins (from now on)</legend>
    <div v-for="(one, n) in alsoOn" :key="n" class="sentence">
      <span>People on it are also on</span>
      <Select
        :model-value="one.listId" :options="others" option-label="name" option-value="id" size="small"
        :aria-label="`What follows ${n + 1}: which list`" @update:model-value="listId => change(n, { listId })" />
      <Select
        :model-value="one.afterCourseId ?? 0" :options="after" option-label="name" option-value="id" size="small"
        :aria-label="`What follows ${n + 1}: when`" @update:model-value="id => change(n, { afterCourseId: id || null })" />
      <button type="button" class="off" :aria-label="`Remove what follows ${n + 1}`" @click="alsoOn = alsoOn.filter((_, at) => at !== n)">
        <i class="pi pi-times small" aria-hidden="true" />
      </button>
    </div>
    <button type="button" class="link-button" @click="add">
      <i class="pi pi-plus small" aria-hidden="true" /> {{ alsoOn.length ? 'another list' : 'another list, too' }}
    </button>
    <ProblemNote :of="problem" line class="small" />
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0; gap: 8px; justify-items: start; }
legend { padding: 0 0 6px; }
.sentence { display: flex; gap: 8px; align-items: center; flex-wrap: wrap; }
.off { width: 24px; height: 24px; border: 0; background: none; color: var(--p-porch-ink-second); cursor: pointer; }
</style>
