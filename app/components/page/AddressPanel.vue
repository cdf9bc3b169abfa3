<script setup lang="ts">
import InputText from 'primevue/inputtext'
import Textarea from 'primevue/textarea'
import { headlineOf, type Drawn } from '#core/page/content'
import type { PictureView } from '#core/page/picture'
import QrCode from '~/components/QrCode.vue'
import PictureField from './PictureField.vue'

/** What the page is called and where it is found, and what stands where its address is shared. */
const typed = defineModel<{ name: string, slug: string, draft: Drawn }>({ required: true })
defineProps<{ pictures: PictureView[], url: string, wrong: (field: string) => string | undefined }>()
const emit = defineEmits<{ picture: [picture: PictureView] }>()
</script>

<template>
  <div class="stack">
    <section class="panel panel-body fields two" aria-label="Name and address">
      <div class="field">
        <label for="name">Name (only you see it)</label>
        <InputText id="name" v-model="typed.name" maxlength="120" :invalid="!!wrong('name')" />
        <p v-if="wrong('name')" class="problem">{{ wrong('name') }}</p>
      </div>
      <div class="field">
        <label for="slug">End of its address</label>
        <InputText id="slug" v-model="typed.slug" class="mono" maxlength="80" :invalid="!!wrong('slug')" />
        <p v-if="wrong('slug')" class="problem">{{ wrong('slug') }}</p>
        <p v-else class="hint mono">{{ url }}</p>
      </div>
    </section>
    <section class="panel panel-body fields" aria-labelledby="shared">
      <h2 id="shared">In search results and when shared</h2>
      <div class="field">
        <label for="meta-title">Title</label>
        <InputText id="meta-title" v-model="typed.draft.meta.title" maxlength="120" :placeholder="headlineOf(typed.draft)" />
        <p class="hint">Shown in the browser tab and in search results. If empty, the headline is used.</p>
      </div>
      <div class="field">
        <label for="meta-description">Description</label>
        <Textarea id="meta-description" v-model="typed.draft.meta.description" rows="2" auto-resize maxlength="300" />
      </div>
      <PictureField
        v-model="typed.draft.meta.pictureId" label="Picture when shared; if empty, the first on the page" :pictures="pictures"
        clearable @picture="picture => emit('picture', picture)" />
    </section>
    <section class="panel panel-body paper" aria-labelledby="paper">
      <div>
        <h2 id="paper">On paper</h2>
        <p class="second">For a flyer or a sign. Visitors who scan it are counted as from <span class="mono">paper</span>.</p>
      </div>
      <QrCode :url="`${url}?from=paper`" :name="typed.name" />
    </section>
  </div>
</template>

<style scoped>
.paper { display: flex; justify-content: space-between; gap: 24px; }
</style>
