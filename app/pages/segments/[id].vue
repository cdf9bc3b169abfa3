<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import type { Condition } from '#core/audience/condition'
import type { SegmentInput } from '#core/audience/segment'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useKeeping } from '~/composables/useKeeping'
import { provideParts } from '~/composables/useParts'
import { useUntil } from '~/composables/useUntil'
import { sayNumber, sayPeople } from '#core/stats/say'
import AudiencePanel from '~/components/condition/AudiencePanel.vue'
import ConditionEditor from '~/components/condition/ConditionEditor.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const RulesBeside = whenNeeded(() => import('~/components/rule/RulesBeside.vue'))

/** One segment, new or saved: its condition with the number beside it. */
const route = useRoute()
const id = route.params.id === 'new' ? null : Number(route.params.id)

const { parts, problem: partsProblem } = provideParts()
const { data: segments, problem: loading, load } = useFresh(() => api('GET /segments'))
const saved = computed(() => segments.value?.find(segment => segment.id === id) ?? null)
useUntil(() => saved.value?.people === null, load)
const fixed = computed(() => saved.value?.code === 'may-be-mailed')

/** A filter of the table of subscribers can be taken over as the beginning of a new segment. */
function beginning(): Condition {
  try {
    const given = JSON.parse(String(route.query.where)) as Condition
    if (given.kind === 'all') return given
  }
  catch {
    // nothing, or nothing readable: begin with everybody
  }
  return { kind: 'all', of: [{ kind: 'all', of: [] }, { kind: 'none', of: [] }] }
}
const NEW: SegmentInput = { name: '', note: '', condition: beginning() }
const pick = ({ name, note, condition }: SegmentInput): SegmentInput => ({ name, note, condition })
const { typed, changed, busy, problem, save, remove } = useKeeping<SegmentInput>({
  id, screen: '/segments', noun: 'segment', saved: () => id === null ? NEW : saved.value && pick(saved.value), load,
  send: async body => (await (id === null ? api('POST /segments', { body }) : api('PUT /segments/:id', { at: { id }, body }))).id,
  drop: at => api('DELETE /segments/:id', { at }),
})
const takeAway = () => remove({
  header: `Delete ${saved.value!.name}?`, message: 'The condition is deleted. Nobody’s record changes.', acceptLabel: 'Delete the segment',
})
</script>

<template>
  <div>
    <ProblemNote v-if="loading || partsProblem" :of="loading || partsProblem" />
    <p v-else-if="segments && id !== null && !saved" class="note brick" role="alert">This segment no longer exists.</p>
    <template v-else-if="typed && parts">
      <PageHead :title="id === null ? 'New segment' : saved?.name ?? ''" :back="{ to: '/segments', name: 'Segments' }">
        <template v-if="saved && saved.people !== null">{{ sayPeople(saved.people) }} as saved. In the last 30 days
          {{ sayNumber(saved.entered30) }} entered and {{ sayNumber(saved.left30) }} went out<template v-if="changed">; changes count once
            you save</template>.</template>
        <template v-else-if="saved">Everybody is being checked.</template>
        <template v-else>A condition about people that reads like a sentence. The number beside it updates as you go.</template>
        <template #actions>
          <ThingActions v-if="id !== null" kind="segment" :id="id" :to="one => `/segments/${one}`" />
          <Button v-if="saved && !fixed" label="Delete" severity="secondary" @click="takeAway" />
          <Button
            v-if="!fixed" :label="id === null ? 'Save the segment' : 'Save the changes'" :loading="busy" :disabled="!changed" @click="save"
          />
        </template>
      </PageHead>
      <div class="columns two">
        <section class="panel panel-body fields" aria-label="The condition">
          <ProblemNote :of="problem" general />
          <div class="fields names">
            <div class="field">
              <label for="segment-name">Name</label>
              <InputText
                id="segment-name" v-model="typed.name" maxlength="80" :disabled="fixed" placeholder="for example: coptic fans who read"
                :invalid="!!problem?.of('name')" />
              <ProblemNote :of="problem" at="name" />
            </div>
            <div class="field">
              <label for="segment-note">What it is for</label>
              <InputText id="segment-note" v-model="typed.note" maxlength="300" :disabled="fixed" />
            </div>
          </div>
          <ProblemNote :of="problem?.of('condition')" />
          <p v-if="fixed" class="second">{{ typed.note }} It applies the rules on who may be emailed and cannot be changed. Which countries
            need consent is said in <NuxtLink to="/settings">Settings</NuxtLink>. Your own segments can use this one.</p>
          <ConditionEditor v-else v-model="typed.condition" :segment-id="id" />
        </section>
        <div class="stack">
          <AudiencePanel :condition="typed.condition" :segment-id="id" />
          <RulesBeside v-if="id !== null" kind="segment" :id="id" />
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1fr) 290px; }
.names { grid-template-columns: 1fr 1.4fr; }
@media (max-width: 900px) { .two, .names { grid-template-columns: minmax(0, 1fr); } }
</style>
