<script setup lang="ts">
import { onMounted, ref } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { SourceKey } from '#core/page/touch'
import { sayMonth } from '#core/time/say'
import { instantOf } from '#core/time/zone'
import type { SourceCosts } from '#core/views/sources'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { useUndo } from '~/stores/undo'
import SidePanel from '~/components/SidePanel.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** What was spent on a source, a month a line. */
const props = defineProps<{ source: SourceKey, says: string }>()
const emit = defineEmits<{ close: [], saved: [] }>()

const say = (month: string) => sayMonth(instantOf(`${month}-01`, '12:00', 'UTC'), 'UTC')
const view = ref<SourceCosts | null>(null)
const typed = ref<Record<string, string>>({})
const { attempt, busy, problem } = useAttempt()
const undo = useUndo()
const show = (costs: SourceCosts) => {
  view.value = costs
  typed.value = Object.fromEntries(costs.months.map(({ month, typed }) => [month, typed]))
}
onMounted(() => attempt(async () => show(await api('GET /sources/costs', { query: { ...props.source } }))))

async function save() {
  const changed = view.value!.months.filter(({ month, typed: before }) => typed.value[month] !== before)
    .map(({ month }) => ({ month, typed: typed.value[month]! }))
  const { source } = props
  const before = changed.map(({ month }) => ({ month, typed: view.value!.months.find(one => one.month === month)!.typed }))
  const keep = (months: typeof changed) => api('PUT /sources/costs', { body: { source, months } })
  if (!await attempt(() => keep(changed))) return
  if (changed.length) undo.did({ said: `The costs of ${props.says} are saved.`, undo: () => keep(before) })
  emit('saved')
  emit('close')
}
</script>

<template>
  <SidePanel :label="`Money spent on ${says}`" @close="emit('close')">
    <template #head><h2 class="cut">Money spent on {{ says }}</h2></template>
    <ProblemNote :of="problem" general />
    <form v-if="view" class="fields" @submit.prevent="save">
      <p class="second small">Total for each month: {{ view.currency }} for new amounts. Leave empty if nothing was spent.</p>
      <div v-for="{ month, currency } in view.months" :key="month" class="month">
        <label :for="`cost-${month}`">{{ say(month) }}</label>
        <span class="amount"><InputText
          :id="`cost-${month}`" v-model="typed[month]" size="small" inputmode="decimal" maxlength="40"
          :invalid="!!problem?.of(`months.${month}`)" /> <span class="second small">{{ currency }}</span></span>
        <p v-if="problem?.of(`months.${month}`)" class="problem" role="alert">{{ problem.of(`months.${month}`) }}</p>
      </div>
      <div class="end">
        <Button label="Cancel" severity="secondary" @click="emit('close')" />
        <Button type="submit" label="Save amounts" :loading="busy" />
      </div>
    </form>
  </SidePanel>
</template>

<style scoped>
.fields { gap: 8px; }
.month { display: grid; grid-template-columns: 140px 1fr; gap: 4px 12px; align-items: center; }
.amount { display: flex; align-items: center; gap: 8px; }
.amount input { width: 140px; text-align: right; font-variant-numeric: tabular-nums; }
.problem { grid-column: 2; color: var(--p-porch-brick); font-size: 12.5px; }
.end { display: flex; gap: 8px; justify-content: flex-end; padding-top: 12px; }
</style>
