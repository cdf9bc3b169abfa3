<script setup lang="ts">
import { computed, nextTick, ref } from 'vue'
import Select from 'primevue/select'
import type { Condition, Group } from '#core/audience/condition'
import { isGroup } from '#core/audience/condition'
import { leafChoices } from '~/audience/leaves'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import LeafRow from './LeafRow.vue'

/** The conditions of one group, and groups within it, to `deepest` levels. */
const group = defineModel<Group>({ required: true })
const props = defineProps<{ label: string, level: number, segmentId: number | null, kinds?: Group['kind'][] }>()
defineEmits<{ remove: [] }>()

const DEEPEST = 3
const KINDS: { value: Group['kind'], name: string }[] = [
  { value: 'all', name: 'all of these are true' }, { value: 'any', name: 'one of these is enough' },
  { value: 'none', name: 'none of these is true' },
]
const kinds = computed(() => KINDS.filter(({ value }) => !props.kinds || props.kinds.includes(value)))
const frame = useFrame()
const parts = useParts()
const rows = ref<HTMLElement>()

const put = (of: Condition[]) => group.value = { ...group.value, of }
const change = (index: number, part: Condition) => put(group.value.of.map((old, at) => at === index ? part : old))
async function remove(index: number) {
  put(group.value.of.filter((_, at) => at !== index))
  await nextTick()
  rows.value?.querySelector<HTMLElement>(':scope > .ways button')?.focus()
}
async function add(part: Condition) {
  put([...group.value.of, part])
  await nextTick()
  // The one just added is what is wanted next.
  const last = [...rows.value?.querySelectorAll<HTMLElement>(':scope > .part') ?? []].at(-1)
  last?.querySelector<HTMLElement>('[role=combobox], button')?.focus()
}
const newLeaf = () => leafChoices(parts.value, frame.now, frame.zone)[0]!.make()
const addLeaf = () => add(newLeaf())
// One of nothing would be nobody: a group begins with something in it.
const addGroup = () => add({ kind: 'any', of: [newLeaf()] })
const nameOf = (index: number) => `${props.label} ${index + 1}`
const word = computed(() => group.value.kind === 'all' ? 'and' : 'or')
</script>

<template>
  <div ref="rows" class="group" :class="`level-${level}`" role="group" :aria-label="label">
    <div v-if="kinds.length > 1 && (level > 1 || group.of.length > 1)" class="kind">
      <Select
        :model-value="group.kind" :options="kinds" option-label="name" option-value="value" size="small"
        :aria-label="`${label}: how they go together`" @update:model-value="kind => group = { ...group, kind }" />
      <button v-if="level > 1" type="button" class="link-button small" @click="$emit('remove')">Remove this group</button>
    </div>
    <div v-for="(part, index) in group.of" :key="index" class="part">
      <span class="word second small">{{ index > 0 ? word : '' }}</span>
      <GroupRows
        v-if="isGroup(part)" :model-value="part" :label="nameOf(index)" :level="level + 1" :segment-id="segmentId"
        @update:model-value="inner => change(index, inner)" @remove="remove(index)" />
      <LeafRow v-else :model-value="part" :label="nameOf(index)" :segment-id="segmentId" @update:model-value="leaf => change(index, leaf)"
               @remove="remove(index)" />
    </div>
    <p class="ways">
      <button type="button" class="link-button" @click="addLeaf">
        <i class="pi pi-plus small" aria-hidden="true" /> {{ group.of.length ? 'and another condition' : 'a condition' }}
      </button>
      <button v-if="level < DEEPEST" type="button" class="link-button" @click="addGroup"><i class="pi pi-plus small" aria-hidden="true" /> a
        group</button>
    </p>
  </div>
</template>

<style scoped>
.group { display: grid; gap: 2px; min-width: 0; flex: 1; }
.level-2, .level-3 {
  padding: 8px 10px 4px; border: 1px solid var(--p-porch-line); border-left: 3px solid var(--p-porch-rail-wood); border-radius: 6px;
  margin: 4px 0; background: var(--p-porch-rail);
}
.level-3 { background: var(--p-porch-paper); }
.kind { display: flex; align-items: center; justify-content: space-between; gap: 8px; padding-bottom: 2px; }
.part { display: flex; align-items: flex-start; gap: 6px; min-width: 0; }
.part > :last-child { flex: 1; min-width: 0; }
.word { width: 24px; padding-top: 11px; text-align: right; flex: none; }
.ways { display: flex; gap: 18px; padding-left: 30px; }
.ways .pi { font-size: 10px; }
</style>
