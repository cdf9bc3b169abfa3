<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from '~/components/DialogBox'
import { PHONE_SUBJECT_PX } from '#core/message/checks/check'
import { readLine, type Line } from '#core/message/content'
import { historyOf, sayHistory, TRAITS, traitsOf, type Trait } from '#core/message/subjects'
import { sayBasis, sayInterval, saySome, sayNumber, sayRate } from '#core/stats/say'
import { sayMoment } from '#core/time/say'
import type { PastSubjectLine } from '#core/views/email'
import { api } from '~/composables/useApi'
import { useSenders } from '~/composables/useSenders'
import { useFrame } from '~/stores/frame'
import { widthOfSubject } from '~/composables/phoneSubject'
import LineEditor from '~/components/LineEditor.vue'
import PeopleNumber from '~/components/PeopleNumber.vue'

/** Several subjects side by side: as a phone shows them, what each is like, and how one's own past ones of the kind did. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{
  subject: Line, preview: Line, senderId: number | null, listId: number | null, /** While the email is open. */ kept: Line[]
}>()
const emit = defineEmits<{ take: [subject: Line], keep: [lines: Line[]] }>()
const frame = useFrame()
const { chosen: named, usual } = useSenders(() => ({ senderId: props.senderId, listId: props.listId }))
const sender = computed(() => (named.value ?? usual.value)?.name ?? frame.frame?.workspace.name ?? '')

const MOST = 6
const lines = ref<Line[]>(props.kept.length > 0 ? [...props.kept] : [props.subject, []])
const chosen = ref(0)
function put(n: number, line: Line) {
  lines.value = lines.value.map((one, at) => at === n ? line : one)
  chosen.value = n
  emit('keep', lines.value)
}
const past = ref<PastSubjectLine[] | null>(null)
onMounted(async () => past.value = await api('GET /subjects').catch(() => []))

const text = (line: Line) => readLine(line).trim()
/** What a phone shows of it; the rest is cut. */
function shown(line: Line): { seen: string, cut: string } {
  const letters = [...text(line)]
  let n = letters.length
  while (n > 0 && widthOfSubject(letters.slice(0, n).join('')) > PHONE_SUBJECT_PX) n--
  return { seen: letters.slice(0, n).join('').trimEnd(), cut: letters.slice(n).join('') }
}
const current = computed(() => lines.value[chosen.value] ?? [])
const traits = computed(() => TRAITS.filter(({ key }) => traitsOf(current.value).includes(key)))
const history = (trait: Trait) => historyOf(trait.key, past.value ?? [])
const SAYS = {
  more: 'opened more often than your others', less: 'opened less often than your others', unclear: 'no clear difference',
  few: 'too few emails to compare',
}
const open = ref<string | null>(null)
const emailsWith = (key: string) => (past.value ?? []).filter(one => one.traits.includes(key))
function take() {
  emit('take', current.value)
  visible.value = false
}
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Try subjects" :style="{ width: '920px' }">
    <div class="bench">
      <div class="fields">
        <div v-for="(line, n) in lines" :key="n" class="one" :class="{ on: n === chosen }" @focusin="chosen = n">
          <LineEditor :model-value="line" :label="`Subject ${n + 1}`" :list-id="listId" @update:model-value="next => put(n, next)" />
        </div>
        <Button v-if="lines.length < MOST" label="Another one" size="small" severity="secondary" @click="lines = [...lines, []]" />
        <section class="phone" aria-label="As a phone shows them">
          <p class="small second">As a phone shows them</p>
          <button
            v-for="(line, n) in lines" :key="n" type="button" class="mail" :class="{ on: n === chosen }" :aria-pressed="n === chosen"
            @click="chosen = n">
            <strong>{{ sender }}</strong>
            <span class="subject">{{ shown(line).seen || 'no subject' }}<span v-if="shown(line).cut" class="cut-off">…</span></span>
            <span class="second small cut">{{ text(preview) }}</span>
          </button>
        </section>
      </div>
      <section class="fields" aria-label="What it is like">
        <h3>“{{ text(current) || 'no subject' }}”</h3>
        <p v-if="shown(current).cut" class="small problem">A phone cuts off “{{ shown(current).cut.trim() }}”.</p>
        <p v-if="!traits.length" class="second">Nothing about it stands out.</p>
        <div v-for="trait in traits" :key="trait.key" class="trait">
          <p><strong>It {{ trait.says }}.</strong> <span class="second">{{ trait.hint }}</span></p>
          <template v-if="past">
            <p class="small">
              <template v-if="history(trait).with.emails > 0">
                {{ saySome(history(trait).with.emails, 'email', 'emails') }} of yours:
                <strong>{{ sayRate(history(trait).with) }}</strong> opened
                ({{ sayBasis(history(trait).with) }}{{ history(trait).with.whole >= 100
                  ? `; ${sayInterval(history(trait).with)}` : '' }}),
                the others {{ sayRate(history(trait).without) }}; {{ SAYS[sayHistory(history(trait))] }}.
                <button
                  type="button" class="link-button small" :aria-expanded="open === trait.key"
                  @click="open = open === trait.key ? null : trait.key">
                  {{ open === trait.key ? 'Hide them' : 'Show them' }}</button>
              </template>
              <template v-else>None of yours yet.</template>
            </p>
            <ul v-if="open === trait.key" class="small past">
              <li v-for="(one, n) in emailsWith(trait.key)" :key="n">
                <span>{{ one.subject }}</span>
                <span class="second">{{ sayMoment(one.lastAt, frame.zone) }}</span>
                <span>opened by <PeopleNumber :people="one.opened" :query="{ where: JSON.stringify(one.whereOpened) }" /> of
                  <PeopleNumber :people="one.sent" :query="{ where: JSON.stringify(one.whereSent) }" /></span>
              </li>
            </ul>
          </template>
        </div>
        <p v-if="past" class="second small">Counted: reader opens of your last {{ sayNumber(past.length) }} emails whose subject was the
          same for everybody. Opens are uncertain, and an email is more than its subject.</p>
        <div class="ends"><Button label="Use this subject" :disabled="text(current) === ''" @click="take" /></div>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.bench { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 22px; align-items: start; }
.one { border-left: 3px solid transparent; padding-left: 8px; }
.one.on { border-left-color: var(--p-porch-focus); }
.phone {
  width: 330px; max-width: 100%; border: 1px solid var(--p-porch-line); border-radius: 18px; padding: 12px 0 8px;
  background: var(--p-porch-paper);
}
.phone > p { padding: 0 16px 6px; }
.mail {
  display: grid; gap: 1px; width: 100%; padding: 8px 16px; border: 0; border-top: 1px solid var(--p-porch-line-light); background: none;
  text-align: start; cursor: pointer; font: inherit; color: inherit; min-height: 24px;
}
.mail.on { background: var(--p-porch-rail); }
.subject { font: 600 16px/1.3 'Segoe UI', 'Helvetica Neue', Arial, sans-serif; white-space: nowrap; overflow: hidden; }
.cut-off { color: var(--p-porch-brick); }
.trait { padding: 8px 0; border-top: 1px solid var(--p-porch-line-light); display: grid; gap: 3px; }
.past { margin: 4px 0 0; padding: 0; list-style: none; display: grid; gap: 5px; max-height: 180px; overflow: auto; }
.past li { display: grid; grid-template-columns: minmax(0, 1fr) auto; gap: 0 10px; }
.past li > :last-child { grid-column: 1 / -1; }
.ends { display: flex; justify-content: flex-end; }
@media (max-width: 760px) { .bench { grid-template-columns: minmax(0, 1fr); } }
</style>
