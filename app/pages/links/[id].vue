<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from '#imports'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import InputText from 'primevue/inputtext'
import { LINK_ACTIONS, type Action } from '#core/rules/rule'
import type { Condition } from '#core/audience/condition'
import { sayMoment } from '#core/time/say'
import type { LinkInput } from '#core/views/links'
import { api } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useKeeping } from '~/composables/useKeeping'
import { provideRuleParts } from '~/composables/useParts'
import { sayNumber, sayPeople, saySome } from '#core/stats/say'
import { actionChoices } from '~/rules/choices'
import { useFrame } from '~/stores/frame'
import ActionRow from '~/components/rule/ActionRow.vue'
import LinkResults from '~/components/link/LinkResults.vue'
import PageHead from '~/components/PageHead.vue'
import ThingActions from '~/components/ThingActions.vue'
import ProblemNote from '~/components/ProblemNote.vue'
import { whenNeeded } from '~/components/whenNeeded'

/* Comes once it is seen. */
const RulesBeside = whenNeeded(() => import('~/components/rule/RulesBeside.vue'))
const QrCode = whenNeeded(() => import('~/components/QrCode.vue'))

/** One tracked link, new or of the library: where it leads, what following it brings, and what came of it. */
const route = useRoute()
const frame = useFrame()
const id = route.params.id === 'new' ? null : Number(route.params.id)
const zone = computed(() => frame.zone)

const { parts, problem: partsProblem } = provideRuleParts()
const days = ref(14)
const { data: view, problem: loading, load } = useFresh(
  async () => id === null ? null : api('GET /links/:id', { at: { id }, query: { days: days.value } }), () => days.value,
)
const pick = ({ name, url, note, does, asks }: LinkInput): LinkInput => ({ name, url, note, does, asks })
const NEW: LinkInput = { name: '', url: 'https://', note: '', does: [], asks: false }
const { typed, changed, busy, problem, save, remove } = useKeeping<LinkInput>({
  id, screen: '/links', noun: 'link', saved: () => id === null ? NEW : view.value && pick(view.value), load,
  send: async body => (await (id === null ? api('POST /links', { body }) : api('PUT /links/:id', { at: { id }, body }))).id,
  drop: at => api('DELETE /links/:id', { at }),
})
const moved = computed(() => view.value !== null && typed.value !== null && view.value.url !== typed.value.url)

function setAction(n: number, action: Action) {
  typed.value!.does[n] = action
}
const add = () => typed.value!.does.push(actionChoices(parts.value!).find(({ value }) => LINK_ACTIONS.includes(value))!.make())

const takeOut = () => remove({
  header: `Delete “${view.value!.name}”?`,
  message: 'Emails that have it still lead to its destination, but a click does nothing else. You cannot choose it while writing.',
  acceptLabel: 'Delete the link',
})
const doesProblem = (n: number) =>
  problem.value?.fields.find(({ field }) => field === `does.${n}` || field.startsWith(`does.${n}.`))?.problem
const where = computed(() =>
  JSON.stringify({ kind: 'all', of: [{ kind: 'followed', linkId: id ?? 0, within: null, times: 1 }] } satisfies Condition))
</script>

<template>
  <div>
    <ProblemNote v-if="loading || partsProblem" :of="loading || partsProblem" />
    <template v-else-if="typed && parts">
      <PageHead :title="id === null ? 'New link' : view?.name ?? ''" :back="{ to: '/links', name: 'Links' }">
        <template v-if="view"><NuxtLink
          v-if="view.people" :to="{ path: '/subscribers', query: { where } }">{{ sayPeople(view.people) }}</NuxtLink><template
          v-else>Nobody</template> clicked it, {{ saySome(view.clicks, 'time', 'times') }} in all<template v-if="view.machines">;
          {{ sayNumber(view.machines) }} more were robots and scanners, which start nothing</template>.</template>
        <template v-else>A named destination that knows who clicked it.</template>
        <template #actions>
          <ThingActions v-if="id !== null" kind="link" :id="id" :to="one => `/links/${one}`" />
          <Button v-if="id !== null" label="Delete" severity="secondary" @click="takeOut" />
          <Button
            :label="id === null ? 'Save the link' : 'Save the changes'" :loading="busy" :disabled="id !== null && !changed" @click="save" />
        </template>
      </PageHead>
      <p v-if="view?.trouble" class="note brick" role="alert">Its destination has not answered since
        {{ sayMoment(view.troubleSinceAt!, zone) }}: {{ view.trouble }}. Checked {{ sayMoment(view.checkedAt!, zone) }}.</p>
      <div class="columns two">
        <div class="stack">
          <section class="panel panel-body fields" aria-label="The link">
            <ProblemNote :of="problem" general />
            <div class="fields names">
              <div class="field">
                <label for="link-name">Name</label>
                <InputText
                  id="link-name" v-model="typed.name" maxlength="80" placeholder="for example: likes coptic"
                  :invalid="!!problem?.of('name')" />
                <ProblemNote :of="problem" at="name" />
              </div>
              <div class="field">
                <label for="link-url">Leads to</label>
                <InputText id="link-url" v-model="typed.url" maxlength="2000" class="mono" :invalid="!!problem?.of('url')" />
                <ProblemNote v-if="problem?.of('url')" :of="problem" at="url" />
                <p v-else-if="moved" class="hint">Emails already sent lead there, too, once you save.</p>
              </div>
            </div>
            <div class="does">
              <h2>What a click does, in any email</h2>
              <ActionRow
                v-for="(action, n) in typed.does" :key="n" :model-value="action" :label="`Consequence ${n + 1}`" :kinds="LINK_ACTIONS"
                :problem="doesProblem(n)" @update:model-value="next => setAction(n, next)" @remove="typed!.does.splice(n, 1)" />
              <p v-if="!typed.does.length" class="second small">No actions. Readers’ clicks are counted either way.</p>
              <button type="button" class="link-button" @click="add">
                <i class="pi pi-plus small" aria-hidden="true" /> {{ typed.does.length ? 'and something else' : 'something' }}
              </button>
              <label
                v-if="typed.does.length" class="tick"><Checkbox v-model="typed.asks" binary /> only after a second click, on our page, so
                that no mail program can answer for a reader</label>
              <p v-if="typed.does.length" class="second small">Robots and scanners start nothing. Readers can undo it for 30 days on their
                choices page.</p>
            </div>
            <div class="field">
              <label for="link-note">Notes (only you see them)</label>
              <InputText id="link-note" v-model="typed.note" maxlength="300" />
            </div>
          </section>
          <LinkResults v-if="view" v-model:days="days" :view="view" :zone="zone" />
        </div>
        <div class="stack">
          <RulesBeside v-if="id !== null" :id="id" kind="link" />
          <section v-if="view" class="panel panel-body" aria-labelledby="code">
            <h2 id="code">On paper</h2>
            <QrCode :url="view.url" :name="view.name" />
          </section>
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.two { grid-template-columns: minmax(0, 1fr) 290px; }
.names { grid-template-columns: 1fr 1.6fr; }
.does { display: grid; gap: 4px; justify-items: start; }
.does > :deep(.action) { width: 100%; }
.does h2 { font-size: 14.5px; }
.tick { display: inline-flex; align-items: center; gap: 6px; }
@media (max-width: 900px) { .two, .names { grid-template-columns: minmax(0, 1fr); } }
</style>
