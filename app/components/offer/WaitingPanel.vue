<script setup lang="ts">
import { computed, ref } from 'vue'
import Checkbox from 'primevue/checkbox'
import InputNumber from 'primevue/inputnumber'
import InputText from 'primevue/inputtext'
import type { Condition } from '#core/audience/condition'
import type { OfferContent } from '#core/offers/offer'
import { CONFIRM_DAYS, MOST_TURN_HOURS, newWaiting } from '#core/offers/waiting'
import { sayMoment } from '#core/time/say'
import type { OfferView } from '#core/views/offers'
import { aheadAsTyped, aheadWith } from '~/words/opening'
import { sayPeople } from '#core/stats/say'
import { useFrame } from '~/stores/frame'
import MarkPicker from '~/components/MarkPicker.vue'
import EmailCard from '~/components/email/EmailCard.vue'

/** Who waits until it can be bought, what they read, and how they hear of it. */
const draft = defineModel<OfferContent>({ required: true })
const props = defineProps<{
  id: number, view: OfferView, lists: { id: number, name: string }[], tags: { id: number, name: string }[],
  make: (kind: 'lists' | 'tags', name: string) => Promise<number>, wrong: (field: string) => string | undefined,
}>()
const frame = useFrame()
const zone = computed(() => frame.zone)

const waits = computed({
  get: () => draft.value.waiting !== null,
  set: (on: boolean) => {
    draft.value.waiting = on ? newWaiting() : null
  },
})

/* Who waits, and how it goes */

const people = computed(() => props.view.waiting?.people ?? 0)
const them = computed(() => ({
  path: '/subscribers', query: { where: JSON.stringify({ kind: 'all', of: [{ kind: 'waits', offerId: props.id }] } satisfies Condition) },
}))
/** Nobody waits yet: how it would go is shown with as many as are typed here. */
const supposed = ref(20)
const ahead = computed(() =>
  people.value > 0 ? aheadAsTyped(draft.value, props.view, frame.now) : aheadWith(supposed.value, draft.value, props.view, frame.now))
const SHOWN = 6
const shown = computed(() => ahead.value?.bits.slice(0, SHOWN) ?? [])
const more = computed(() => ahead.value?.bits.slice(SHOWN) ?? [])
const widest = computed(() => Math.max(1, ...shown.value.map(bit => bit.people)))
const sayWhen = (at: number) => at <= frame.now ? 'at once' : sayMoment(at, zone.value)
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields" aria-labelledby="waiting">
      <span class="tick">
        <Checkbox v-model="waits" input-id="waits" binary />
        <label
          id="waiting" for="waits"><strong>Waiting list</strong> while it cannot be bought: before it opens, after it closes, or when all
          places are taken</label>
      </span>
      <p v-if="view.waiting && (people > 0 || view.waiting.told > 0)">
        <NuxtLink v-if="people > 0" :to="them">{{ sayPeople(people) }}</NuxtLink><template v-else>Nobody</template>
        {{ people === 1 ? 'waits' : people === 0 ? 'is waiting now' : 'wait' }}.
        <template v-if="view.waiting.told > 0">{{ sayPeople(view.waiting.told) }} {{ view.waiting.told === 1 ? 'was' : 'were' }} emailed
          before.</template>
      </p>
      <p v-if="people > 0 && !draft.waiting" class="note brick">{{ sayPeople(people) }} would never get the email, because the waiting list
        is off.</p>
    </section>
    <template v-if="draft.waiting">
      <section class="panel panel-body fields" aria-labelledby="opening">
        <h2 id="opening">Email when it opens</h2>
        <p v-if="ahead === null" class="second">It is open now.
          {{ draft.places === null
            ? 'Nobody has to wait.' : 'Once all places are taken, people waiting get an email when one is free.' }}</p>
        <div v-else class="ahead">
          <p v-if="people > 0" class="small">Planned sends, if nobody else buys</p>
          <p v-else class="line small">If
            <InputNumber
              v-model="supposed" :min="1" :max="100000" :allow-empty="false" aria-label="People waiting, for this preview"
              size="small" class="few" /> people are waiting and nobody else buys</p>
          <ol v-if="ahead.bits.length">
            <li v-for="bit in shown" :key="bit.at">
              <span class="when">{{ sayWhen(bit.at) }}</span>
              <span class="bar" :style="{ width: `${Math.max(2, 100 * bit.people / widest)}%` }" aria-hidden="true" />
              <span class="number">{{ sayPeople(bit.people) }}</span>
            </li>
            <li v-if="more.length">
              <span class="when">until {{ sayMoment(more.at(-1)!.at, zone) }}</span>
              <span class="second small">in {{ more.length }} more groups</span>
              <span class="number">{{ sayPeople(more.reduce((sum, bit) => sum + bit.people, 0)) }}</span>
            </li>
          </ol>
          <p v-if="ahead.unheard > 0" class="small">
            <strong>{{ sayPeople(ahead.unheard) }}</strong>
            would get no email: {{ ahead.bits.length ? 'it closes before their turn.' : 'no opening is planned.' }}
          </p>
        </div>
        <p v-if="draft.places !== null" class="line">
          Places are limited: one email per free place, longest wait first. The next group gets it after
          <InputNumber
            v-model="draft.waiting.turnHours" :min="1" :max="MOST_TURN_HOURS" :allow-empty="false" suffix=" hours"
            aria-label="Hours until the next group gets the email" size="small" class="few" />
        </p>
        <p class="second small">Sent at once, at any hour, once per person. People who buy first, leave or say “no more” do not get it.
          The button opens the page.</p>
        <EmailCard
          own v-model="draft.waiting.opening" kind="opening" :list-id="draft.waiting.listIds[0] ?? null"
          :problem="wrong('waiting.opening')" />
      </section>
      <section class="panel panel-body fields" aria-labelledby="on-the-page">
        <h2 id="on-the-page">On the page</h2>
        <div class="field">
          <label for="waiting-words">They read</label>
          <InputText id="waiting-words" v-model="draft.waiting.words" maxlength="300" />
        </div>
        <div class="fields two">
          <div class="field">
            <label for="waiting-button">The button says</label>
            <InputText id="waiting-button" v-model="draft.waiting.buttonLabel" maxlength="80" />
          </div>
          <div class="field">
            <label for="waiting-lists">They join</label>
            <MarkPicker
              v-model="draft.waiting.listIds" input-id="waiting-lists" what="list" :options="lists" :invalid="!!wrong('waiting')"
              :make="name => make('lists', name)" />
          </div>
        </div>
        <div class="field">
          <label for="waiting-tags">They get</label>
          <MarkPicker
            v-model="draft.waiting.tagIds" input-id="waiting-tags" what="tag" :options="tags" :make="name => make('tags', name)" />
        </div>
        <div class="field">
          <label for="waiting-consent">They agree to</label>
          <InputText id="waiting-consent" v-model="draft.waiting.consentWording" maxlength="1000" />
          <p v-if="wrong('waiting')" class="problem">{{ wrong('waiting') }}</p>
        </div>
        <p class="second small">A tracked link can put readers on this list, too. Choose that as its action under
          <NuxtLink to="/links">Links</NuxtLink>.</p>
      </section>
      <section class="panel panel-body fields" aria-labelledby="asking">
        <h2 id="asking">Confirmation</h2>
        <span class="tick">
          <Checkbox v-model="draft.waiting.asks" input-id="asks" binary />
          <label for="asks">Ask everyone to confirm by email</label>
        </span>
        <p v-if="draft.waiting.asks" class="second small">People join, and get the lists and tags, when they confirm. They have
          {{ CONFIRM_DAYS }} days.</p>
        <p v-else class="second small">Anyone who types an address joins at once. People who left, paused or bounced still get this
          email.</p>
        <EmailCard
          own v-model="draft.waiting.confirm" kind="waiting" :list-id="draft.waiting.listIds[0] ?? null"
          :problem="wrong('waiting.confirm')" />
      </section>
    </template>
  </div>
</template>

<style scoped>
.tick { display: flex; align-items: center; gap: 8px; }
.line { display: flex; align-items: center; gap: 8px; flex-wrap: wrap; }
.few :deep(input) { width: 100px; }
.ahead {
  background: var(--p-porch-lamp-ground); color: var(--p-porch-lamp-text); border-radius: 6px; padding: 10px 14px; display: grid; gap: 6px;
}
.ahead ol { margin: 0; padding: 0; list-style: none; display: grid; gap: 4px; }
.ahead li { display: grid; grid-template-columns: 170px minmax(0, 1fr) 110px; align-items: center; gap: 12px; }
.ahead .bar { height: 10px; border-radius: 3px; background: var(--p-porch-lamp); }
.ahead .number { text-align: right; font-variant-numeric: tabular-nums; }
@media (max-width: 760px) { .ahead li { grid-template-columns: minmax(0, 1fr) auto; } .ahead .bar { display: none; } }
</style>
