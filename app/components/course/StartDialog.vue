<script setup lang="ts">
import { computed, ref } from 'vue'
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import RadioButton from 'primevue/radiobutton'
import type { CourseView } from '#core/views/course'
import { api } from '~/composables/useApi'
import { useAttempt } from '~/composables/useAttempt'
import { sayPeople, saySome } from '~/look/say'

/** Says what starting, or publishing a change, does and to how many; then does it. */
const props = defineProps<{ course: CourseView, wayIn: string, revision?: string }>()
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ done: [said: string] }>()

const starting = computed(() => props.course.status === 'draft')
const door = computed(() => props.course.outlook.outsideDoor)
const include = ref<'none' | 'everybody'>('none')
const { busy, problem, attempt } = useAttempt()

const go = () => attempt(async () => {
  if (starting.value) {
    const { enrolled } = await api<{ enrolled: number }>(`courses/${props.course.id}/start`, { method: 'POST', body: { include: include.value }, ifMatch: props.revision })
    emit('done', enrolled > 0 ? `The course runs. ${sayPeople(enrolled)} came in.` : 'The course runs. It waits for the first person.')
  }
  else {
    const { moved } = await api<{ moved: number }>(`courses/${props.course.id}/publish`, { method: 'POST', ifMatch: props.revision })
    emit('done', `The changes are in force for ${sayPeople(moved)} inside.`)
  }
  visible.value = false
})
</script>

<template>
  <Dialog v-model:visible="visible" modal :header="starting ? `Start ${course.name}` : `Publish the changes to ${course.name}`" :style="{ width: '480px' }">
    <div class="fields">
      <template v-if="starting">
        <p v-if="course.outlook.emptyEmails">{{ saySome(course.outlook.emptyEmails, 'email is', 'emails are') }} still empty. People will stand before the first empty one until you write and publish it.</p>
        <template v-if="door.total > 0">
          <p>{{ saySome(door.total, 'person has', 'people have') }} {{ wayIn }} already<template v-if="door.canGetMail < door.total">; {{ door.canGetMail }} of them can get mail</template>. What about them?</p>
          <div class="choice"><RadioButton v-model="include" input-id="include-none" value="none" /><label for="include-none">Leave them out. Only who gets {{ wayIn }} from now on comes in.</label></div>
          <div class="choice"><RadioButton v-model="include" input-id="include-all" value="everybody" /><label for="include-all">Take {{ door.canGetMail === 1 ? 'that one person' : `all ${sayPeople(door.canGetMail)}` }} in now, from the first email.</label></div>
        </template>
        <p v-else-if="wayIn">Nobody has {{ wayIn }} yet. Whoever gets it from now on comes in.</p>
        <p v-else>This course has no way in yet: nobody can come into it. You can add one later.</p>
      </template>
      <template v-else>
        <p>{{ sayPeople(course.outlook.inside) }} {{ course.outlook.inside === 1 ? 'is' : 'are' }} inside. They keep their place, and nothing already sent is sent again.</p>
        <p v-if="course.outlook.atOnce > 0"><strong>{{ sayPeople(course.outlook.atOnce) }}</strong> would be sent their next email at once, because the change puts its moment into the past.</p>
        <p v-else>Nobody is sent anything at once by this change.</p>
      </template>
      <p v-if="problem" class="note brick" role="alert">{{ problem.message }}</p>
      <div class="end">
        <Button severity="secondary" label="Not yet" @click="visible = false" />
        <Button :label="!starting ? 'Publish the changes' : include === 'everybody' && door.canGetMail > 0 ? `Start, and take in ${sayPeople(door.canGetMail)}` : 'Start the course'" :loading="busy" @click="go" />
      </div>
    </div>
  </Dialog>
</template>

<style scoped>
.choice { display: flex; gap: 10px; align-items: baseline; }
.end { display: flex; justify-content: flex-end; gap: 8px; }
</style>
