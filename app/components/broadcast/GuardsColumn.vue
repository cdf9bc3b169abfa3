<script setup lang="ts">
import { computed, ref } from 'vue'
import InputNumber from 'primevue/inputnumber'
import ToggleSwitch from 'primevue/toggleswitch'
import { MOST_NEWCOMER_DAYS, NEWCOMER_DAYS, type BroadcastDraft, type Guards } from '#core/broadcast/draft'
import type { BroadcastReach } from '#core/views/broadcast'
import PeopleNumber from '~/components/PeopleNumber.vue'

/** Whom it spares by itself: each guard with how many that is of its audience, and whether it is on. */
const draft = defineModel<BroadcastDraft>({ required: true })
const props = defineProps<{ id: number, reach: BroadcastReach | null, changes: boolean }>()
const guards = computed(() => draft.value.guards)
const set = (change: Partial<Guards>) => draft.value = { ...draft.value, guards: { ...guards.value, ...change } }
const days = computed({
  get: () => guards.value.newcomerDays ?? NEWCOMER_DAYS, set: (n: number | null) => set({ newcomerDays: n ?? NEWCOMER_DAYS }),
})
const isInside = (courseId: number) => guards.value.insideCourseIds.includes(courseId)
const spare = (courseId: number, on: boolean) => set({
  insideCourseIds: on ? [...guards.value.insideCourseIds, courseId] : guards.value.insideCourseIds.filter(id => id !== courseId),
})
/** The courses with people in it, those that are chosen first. */
const courses = computed(() => (props.reach?.guards.inside ?? []).toSorted((a, b) =>
  Number(isInside(b.courseId)) - Number(isInside(a.courseId)) || b.people - a.people))
const FEW = 3
const all = ref(false)
const shown = computed(() => all.value ? courses.value : courses.value.slice(0, FEW))
const of = (key: string) => ({ broadcast: props.id, who: key })
</script>

<template>
  <div>
    <h2>Whom it spares</h2>
    <ul>
      <li>
        <ToggleSwitch
          :model-value="guards.newcomerDays !== null" :disabled="!changes" input-id="guard-new"
          @update:model-value="(on: boolean) => set({ newcomerDays: on ? NEWCOMER_DAYS : null })" />
        <span class="what"><label for="guard-new">Newcomers, days</label>
          <InputNumber
            v-model="days" :min="1" :max="MOST_NEWCOMER_DAYS" size="small" :disabled="!changes || guards.newcomerDays === null"
            aria-label="Days of being new" :input-style="{ width: '44px' }" /></span>
        <PeopleNumber v-if="reach" :people="reach.guards.newcomers.people" :query="of('newcomers')" class="n" />
      </li>
      <li v-for="course in shown" :key="course.courseId">
        <ToggleSwitch
          :model-value="isInside(course.courseId)" :disabled="!changes" :input-id="`guard-in-${course.courseId}`"
          @update:model-value="(on: boolean) => spare(course.courseId, on)" />
        <label :for="`guard-in-${course.courseId}`" class="what cut">Inside “{{ course.name }}”</label>
        <PeopleNumber :people="course.people" :query="of(course.key)" class="n" />
      </li>
      <li v-if="courses.length > FEW">
        <button type="button" class="link-button small" @click="all = !all">
          {{ all ? 'Show fewer courses' : `Show ${courses.length - FEW} more courses` }}</button>
      </li>
      <template v-if="reach && reach.guards.sells.length > 0">
        <li>
          <ToggleSwitch
            :model-value="guards.owners" :disabled="!changes" input-id="guard-owners"
            @update:model-value="(on: boolean) => set({ owners: on })" />
          <label for="guard-owners" class="what cut" :title="reach.guards.sells.join(', ')">Owners of
            {{ reach.guards.sells.join(', ') }}</label>
          <PeopleNumber :people="reach.guards.owners.people" :query="of('owners')" class="n" />
        </li>
        <li>
          <i class="pi pi-lock second" title="They asked for that. Say in the email that it sells nothing, if it does not." />
          <span class="what">Want no more about it</span>
          <PeopleNumber :people="reach.guards.noMore.people" :query="of('no-more')" class="n" />
        </li>
      </template>
      <li v-if="reach">
        <i class="pi pi-lock second" title="Which countries need consent is set under Settings." />
        <span class="what">No consent on record <NuxtLink to="/settings?at=consent-rule" class="small">rule</NuxtLink></span>
        <PeopleNumber :people="reach.guards.noConsent.people" :query="of('no-consent')" class="n" />
      </li>
    </ul>
  </div>
</template>

<style scoped>
h2 { font: 650 16px/1.3 var(--heading); padding-bottom: 8px; }
ul { list-style: none; margin: 0; padding: 0; display: grid; grid-template-columns: minmax(0, 1fr); gap: 7px; }
li { display: flex; align-items: center; gap: 8px; min-height: 26px; font-size: 13.5px; }
li .pi-lock { width: 40px; text-align: center; flex: none; }
.what { flex: 1; min-width: 0; }
span.what { display: flex; gap: 6px; align-items: center; flex-wrap: wrap; }
.n { font-weight: 600; font-variant-numeric: tabular-nums; }
</style>
