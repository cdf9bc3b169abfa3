<script setup lang="ts">
import { ref, computed } from 'vue'
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import MultiSelect from 'primevue/multiselect'
import { ApiProblem } from '~/composables/useApi'
import { useArchive } from '~/composables/useArchive'
import ProblemNote from '~/components/ProblemNote.vue'

/** Chooses lists or tags, or makes a new one in place. */
const props = defineProps<{ inputId: string, what: 'list' | 'tag', options: { id: number, name: string }[], invalid?: boolean, make: (
  name: string,
) => Promise<number> }>()
const chosen = defineModel<number[]>({ required: true })

const making = ref(false)
const name = ref('')
const problem = ref<string | null>(null)
const { isArchived } = useArchive()
/** What is put away comes last, and says so: whatever is chosen already stays to be seen. */
const offered = computed(() => {
  const isAway = ({ id }: { id: number }) => isArchived(props.what, id)
  return [
    ...props.options.filter(one => !isAway(one)), ...props.options.filter(isAway).map(one => ({ ...one, name: `${one.name} (archived)` })),
  ]
})
const placeholder = computed(() => props.options.length === 0 ? `no ${props.what}s yet` : `choose a ${props.what}`)

async function makeIt() {
  try {
    const id = await props.make(name.value)
    chosen.value = [...chosen.value, id]
    making.value = false
    name.value = ''
    problem.value = null
  }
  catch (error) {
    problem.value = error instanceof ApiProblem ? error.of('name') ?? error.message : String(error)
  }
}
</script>

<template>
  <div class="picker">
    <div class="choose">
      <MultiSelect
        v-model="chosen" :input-id="inputId" :options="offered" option-label="name" option-value="id" display="chip" filter
        :show-toggle-all="false" :placeholder="placeholder" :invalid="invalid" />
      <Button severity="secondary" icon="pi pi-plus" :aria-label="`Make a new ${what}`" :aria-expanded="making" @click="making = !making" />
    </div>
    <form v-if="making" class="choose" @submit.prevent="makeIt" @keydown.esc.stop="making = false">
      <InputText v-model="name" :placeholder="`name of the new ${what}`" :aria-label="`Name of the new ${what}`" maxlength="80" autofocus />
      <Button type="submit" severity="secondary" label="Make it" />
    </form>
    <ProblemNote :of="problem" line class="small" />
  </div>
</template>

<style scoped>
.picker { display: grid; grid-template-columns: minmax(0, 1fr); gap: 6px; }
.choose { display: flex; gap: 6px; }
.choose :deep(.p-multiselect-label) { flex-wrap: wrap; }
.choose > :first-child { flex: 1; min-width: 0; }
</style>
