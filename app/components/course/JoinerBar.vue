<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Select from 'primevue/select'
import { localOf, type LocalDate } from '#core/time/zone'
import { zoneOptions } from '~/audience/fieldOptions'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import PersonField, { type PickedPerson } from '~/components/PersonField.vue'
import { sayZone } from '#core/time/say'
import DateField from '~/components/DateField.vue'
import TimeField from '~/components/TimeField.vue'

/** Who the dates beside the steps are shown for; `dates` are those of the fields by which steps go. */
export interface SampleJoiner { date: LocalDate, time: string, zone: string, dates: Record<number, LocalDate> }

const joiner = defineModel<SampleJoiner>({ required: true })
const props = defineProps<{ courseId: number, workspaceZone: string, anyOwnZone: boolean, fields: { id: number, name: string }[] }>()

const zones = computed(() => zoneOptions(props.workspaceZone))
const set = (change: Partial<SampleJoiner>) => joiner.value = { ...joiner.value, ...change }

/* A real person: when they came in, where they live, their dates */

const picking = ref(false)
const person = ref<PickedPerson | null>(null)
const said = ref('')
const asked = useNewest()
watch(person, async (picked) => {
  const isNewest = asked()
  said.value = ''
  if (!picked) return
  const { courses, fields: known } = await api('GET /subscribers/:id', { at: { id: picked.id } })
  if (!isNewest()) return
  const journey = courses.filter(({ id }) => id === props.courseId).at(-1)
  const zone = picked.zone ?? props.workspaceZone
  const dates = Object.fromEntries(props.fields.flatMap(({ id }) => {
    const value = known.find(({ fieldId }) => fieldId === id)?.value
    return typeof value === 'string' ? [[id, value]] : []
  }))
  const at = journey ? localOf(journey.joinedAt, zone) : { date: joiner.value.date, time: joiner.value.time }
  set({ zone, dates, ...at })
  said.value = journey ? `${picked.name} joined then.` : `${picked.name} has not been in this course; dates are as if they joined then.`
})
</script>

<template>
  <div class="joiner note lamp">
    <label for="joiner-date">Dates shown for someone who joins</label>
    <DateField :model-value="joiner.date" input-id="joiner-date" size="small" @update:model-value="date => set({ date })" />
    <label for="joiner-time">at</label>
    <TimeField :model-value="joiner.time" input-id="joiner-time" size="small" @update:model-value="time => set({ time })" />
    <span>in</span>
    <Select
      :model-value="joiner.zone" aria-label="Zone of the sample joiner" :options="zones" option-label="name" option-value="value" filter
      size="small" @update:model-value="zone => set({ zone })" />
    <template v-for="field in fields" :key="field.id">
      <label :for="`joiner-field-${field.id}`">{{ field.name }}</label>
      <DateField
        :model-value="joiner.dates[field.id] ?? joiner.date" :input-id="`joiner-field-${field.id}`" size="small"
        @update:model-value="date => set({ dates: { ...joiner.dates, [field.id]: date } })" />
    </template>
    <button v-if="!picking" type="button" class="link-button small" @click="picking = true">or a real person</button>
    <PersonField v-else v-model="person" input-id="joiner-person" label="A real person as the sample joiner" />
    <span v-if="said" class="small" role="status">{{ said }}</span>
    <span class="whose">
      {{ anyOwnZone
        ? `Steps on ${sayZone(workspaceZone)} unless a step uses the reader’s own` : `All steps use ${sayZone(workspaceZone)}` }}
    </span>
  </div>
</template>

<style scoped>
.joiner { display: flex; align-items: center; gap: 8px; padding: 6px 14px; flex-wrap: wrap; }
.joiner :deep(input), .joiner .p-select { background: var(--p-porch-paper); border-color: var(--p-porch-lamp-line); font-weight: 600; }
.whose { margin-left: auto; font-size: 13px; }
</style>
