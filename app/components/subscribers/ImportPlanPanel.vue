<script setup lang="ts">
import { computed } from 'vue'
import Button from 'primevue/button'
import type { ImportPlan } from '#core/views/imports'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import ProblemNote from '~/components/ProblemNote.vue'

/** What the import would do, before it is begun. */
const props = defineProps<{ plan: ImportPlan | null, stale: boolean, counting: boolean, busy: boolean, refusal: string | null }>()
/** Rows that do not come in as they stand, kind by kind. */
const told = computed(() => {
  const { plan } = props
  if (!plan) return []
  const kind = (key: string, rows: ImportPlan['firstOdd'], of: number, name: string, head: string) => ({
    key, rows, head, words: rows.length < of
      ? `The first ${rows.length} of ${sayNumber(of)} ${name}; all of them can be downloaded once the import is done.`
      : `The ${name}; they can be downloaded once the import is done.`,
  })
  return [
    kind('refused', plan.firstRefused, plan.refused, 'refused rows', 'Why'),
    kind('odd', plan.firstOdd, plan.odd, 'rows imported without a part', 'Left out'),
  ].filter(({ rows }) => rows.length > 0)
})
const emit = defineEmits<{ look: [], begin: [] }>()
</script>

<template>
  <section class="panel" aria-labelledby="plan">
    <div class="panel-head">
      <h2 id="plan">What the import would do</h2>
      <Button
        :label="plan ? 'Look again' : 'Preview the import'" :severity="plan && !stale ? 'secondary' : undefined" size="small"
        :loading="counting" @click="emit('look')" />
    </div>
    <div class="panel-body">
      <ProblemNote :of="refusal" line />
      <p v-if="!plan" class="second">
        {{ counting ? 'Being counted.' : 'Every row is read as it would be imported. Nothing is changed.' }}
      </p>
      <template v-else>
        <p v-if="stale" class="second stale">Something has changed since. Preview again before you import.</p>
        <dl class="numbers" :class="{ old: stale }">
          <div><dt>{{ sayNumber(plan.new) }}</dt><dd>new</dd></div>
          <div><dt>{{ sayNumber(plan.updated) }}</dt><dd>known, and updated</dd></div>
          <div><dt>{{ sayNumber(plan.unchanged) }}</dt><dd>already up to date</dd></div>
          <div :class="{ refused: plan.refused }"><dt>{{ sayNumber(plan.refused) }}</dt><dd>refused</dd></div>
        </dl>
        <p v-if="plan.odd" class="line">{{ saySome(plan.odd, 'row comes', 'rows come') }} in without a cell that cannot be read.</p>
        <p v-if="plan.newTags.length" class="line">New tags will be made:
          {{ plan.newTags.slice(0, 20).join(', ') }}{{ plan.newTags.length > 20
            ? ` and ${sayNumber(plan.newTags.length - 20)} more` : '' }}.</p>
        <p v-if="plan.newLists.length" class="line">New lists will be made:
          {{ plan.newLists.slice(0, 20).join(', ') }}{{ plan.newLists.length > 20
            ? ` and ${sayNumber(plan.newLists.length - 20)} more` : '' }}.</p>
        <p v-if="plan.gone" class="line">{{ sayPeople(plan.gone) }} {{ plan.gone === 1 ? 'comes' : 'come' }} in as unsubscribed, bounced or
          complained, and {{ plan.gone === 1 ? 'is' : 'are' }} sent nothing.</p>
        <p v-for="begin in plan.begins" :key="begin.course" class="line">Up to {{ sayPeople(begin.people) }} begin the course
          {{ begin.course }}.</p>
        <p v-if="plan.withoutConsent" class="note lamp line">{{ sayPeople(plan.withoutConsent) }} of the new ones live where consent must
          be on record, and have none. They are imported, and get no emails until they opt in.</p>
        <div v-for="{ key, rows, words, head } in told" :key="key" class="refusals">
          <p class="second small">{{ words }}</p>
          <table>
            <thead><tr><th scope="col">Row</th><th scope="col">Address</th><th scope="col">{{ head }}</th></tr></thead>
            <tbody>
              <tr v-for="one in rows" :key="one.row">
                <td>{{ one.row }}</td>
                <td class="address">{{ one.address || '–' }}</td>
                <td>{{ one.problem }}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div class="end">
          <Button
            :label="plan.new + plan.updated === 0 ? 'Nothing to import' : `Import ${sayPeople(plan.new + plan.updated)}`"
            :disabled="stale || plan.new + plan.updated === 0" :loading="busy" @click="emit('begin')" />
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
.numbers { display: grid; grid-template-columns: repeat(4, minmax(0, 1fr)); gap: 10px; margin: 0; }
.numbers dt { font: 600 22px/1.2 var(--body); font-variant-numeric: tabular-nums; }
.numbers dd { margin: 0; color: var(--p-porch-ink-second); font-size: 12.5px; }
.refused dt { color: var(--p-porch-brick); }
.old dt { color: var(--p-porch-ink-second); }
.stale { padding-bottom: 8px; }
.line { margin-top: 12px; }
.refusals { margin-top: 14px; max-height: 260px; overflow: auto; border-top: 1px solid var(--p-porch-line-light); padding-top: 10px; }
table { width: 100%; border-collapse: collapse; font-size: 13px; }
th { text-align: left; font-weight: 600; font-size: 12.5px; padding: 6px 10px 4px 0; }
td { padding: 4px 10px 4px 0; border-top: 1px solid var(--p-porch-line-light); vertical-align: top; }
.address { overflow-wrap: anywhere; min-width: 170px; }
.end { display: flex; justify-content: flex-end; padding-top: 14px; }
.problem { color: var(--p-porch-brick); padding-bottom: 8px; }
</style>
