<script setup lang="ts">
import MultiSelect from 'primevue/multiselect'
import type { PeopleColumn } from '~/composables/useColumns'

/** Chooses the columns of the table; the address is always there. */
defineProps<{ columns: PeopleColumn[] }>()
const shown = defineModel<string[]>({ required: true })
</script>

<template>
  <MultiSelect
    v-model="shown" :options="columns" option-label="name" option-value="id" :show-toggle-all="false" aria-label="Columns"
    :selected-items-label="'{0} columns'" :max-selected-labels="0" placeholder="columns" />
</template>
