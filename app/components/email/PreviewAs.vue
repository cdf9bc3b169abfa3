<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import Button from 'primevue/button'
import type { EmailVersions, WrittenEmail } from '#core/views/email'
import { sayNumber, sayPeople } from '#core/stats/say'
import { api } from '~/composables/useApi'
import { useNewest } from '~/composables/useNewest'
import { invented, type ShownReader } from '~/composables/useVersions'
import PersonField, { type PickedPerson } from '~/components/PersonField.vue'
import ProblemNote from '~/components/ProblemNote.vue'

/** As whom the email is looked at: one after another of those who get different versions, or anybody. */
const reader = defineModel<ShownReader>('reader', { required: true })
const props = defineProps<{ email: WrittenEmail, versions: EmailVersions | null, problem: string | null, at: number }>()
const emit = defineEmits<{ step: [n: number] }>()
const searching = ref(false)
const picked = ref<PickedPerson | null>(null)
const why = ref<string[]>([])
watch(picked, (person) => {
  if (!person) return
  searching.value = false
  const [name, address] = person.name.includes(', ') ? person.name.split(', ') : ['', person.name]
  reader.value = { personId: person.id, firstName: name!, address: address!, chosen: null }
  picked.value = null
})
const asked = useNewest()
watch(() => [reader.value, props.versions] as const, async ([now]) => {
  const isNewest = asked()
  if (now.personId === null) return void (why.value = [])
  const answer = await api('POST /emails/preview', {
    body: { ...props.email, personId: now.personId, firstName: now.firstName, chosen: now.chosen },
  }).catch(() => null)
  if (isNewest()) why.value = answer?.why ?? []
}, { immediate: true })
const shares = computed(() => props.versions?.versions.map(({ people }) => people / Math.max(1, props.versions!.people)) ?? [])
const isOfThem = computed(() => props.versions?.versions[props.at]?.reader.id === reader.value.personId)
</script>

<template>
  <section class="panel" aria-labelledby="preview-as">
    <div class="panel-head">
      <h2 id="preview-as">Preview as</h2>
      <button type="button" class="link-button small" @click="searching = !searching">Someone else</button>
    </div>
    <div class="body fields">
      <template v-if="searching">
        <PersonField v-model="picked" input-id="preview-person" label="Preview as" />
        <p class="small">Or somebody <button type="button" class="link-button" @click="reader = invented('Ines'); searching = false">whose
          name is known</button>, or <button type="button" class="link-button" @click="reader = invented(''); searching = false">is
          not</button>.</p>
      </template>
      <p v-else class="who">
        <strong>{{ reader.firstName || (reader.address ? 'No name known' : 'Somebody without a name') }}</strong>
        <span class="second small">{{ reader.address ?? 'invented' }}</span>
      </p>
      <ProblemNote :of="problem" line class="small" />
      <p v-for="text in why" :key="text" class="second small">{{ text }}</p>
      <template v-if="versions && versions.versions.length > 0">
        <div class="bar" aria-hidden="true">
          <span v-for="(share, n) in shares" :key="n" :class="{ on: isOfThem && n === at }" :style="{ flexGrow: share }" />
        </div>
        <div class="steps">
          <Button
            icon="pi pi-chevron-left" severity="secondary" size="small" aria-label="The version before" :disabled="versions.different < 2"
            @click="emit('step', isOfThem ? at - 1 : 0)" />
          <span v-if="isOfThem" class="small"><strong>Version {{ at + 1 }} of {{ versions.different }}</strong>,
            {{ sayNumber(versions.versions[at]!.people) }} of {{ sayPeople(versions.people) }}</span>
          <span v-else class="small">{{ versions.different === 1 ? 'One version' : `${versions.different} versions` }} for
            {{ sayPeople(versions.people) }}</span>
          <Button
            icon="pi pi-chevron-right" severity="secondary" size="small"
            :aria-label="isOfThem ? 'The next version' : 'Look at it as one of them'" @click="emit('step', isOfThem ? at + 1 : 0)" />
        </div>
        <p class="second small">Counted among people {{ versions.whom }}.</p>
      </template>
    </div>
  </section>
</template>

<style scoped>
.body { padding: 4px 14px 12px; gap: 8px; }
.who { display: flex; gap: 4px 8px; flex-wrap: wrap; align-items: baseline; overflow-wrap: anywhere; }
.bar { display: flex; gap: 2px; height: 6px; }
.bar span { min-width: 3px; background: var(--p-porch-line); border-radius: 2px; }
.bar span.on { background: var(--p-porch-door); }
.steps { display: flex; justify-content: space-between; align-items: center; gap: 8px; text-align: center; }
</style>
