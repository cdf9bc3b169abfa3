<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, hrefOf } from '~/composables/useApi'
import { useFresh } from '~/composables/useFresh'
import { useFrame } from '~/stores/frame'
import CarrierPanel from '~/components/settings/CarrierPanel.vue'
import ConsentPanel from '~/components/settings/ConsentPanel.vue'
import HoursPanel from '~/components/settings/HoursPanel.vue'
import LimitsPanel from '~/components/settings/LimitsPanel.vue'
import LivePanel from '~/components/settings/LivePanel.vue'
import PacePanel from '~/components/settings/PacePanel.vue'
import OddAddressPanel from '~/components/settings/OddAddressPanel.vue'
import ScorePanel from '~/components/settings/ScorePanel.vue'
import SellingPanel from '~/components/settings/SellingPanel.vue'
import SignInPanel from '~/components/settings/SignInPanel.vue'
import SummaryPanel from '~/components/settings/SummaryPanel.vue'
import WorkspaceForm from '~/components/settings/WorkspaceForm.vue'
import PageHead from '~/components/PageHead.vue'
import ProblemNote from '~/components/ProblemNote.vue'

const frame = useFrame()
const { data: settings, problem, load } = useFresh(() => api('GET /settings'))
const live = computed(() => settings.value?.mode === 'live')
const times = ref(0)
async function saved() {
  await load()
  await frame.changed()
  times.value++
}
</script>

<template>
  <ProblemNote v-if="problem" :of="problem" />
  <div v-else-if="settings">
    <PageHead title="Settings">
      {{ live ? 'The live workspace: emails really leave.' : 'The practice workspace: nothing leaves this machine.' }}
    </PageHead>
    <div class="columns two">
      <div class="stack">
        <WorkspaceForm :settings="settings" @saved="saved" />
        <HoursPanel />
        <LimitsPanel />
        <SellingPanel
          :live="live" :sender-hint="[settings.senderName || settings.name, settings.postalAddress].filter(Boolean).join('\n')" />
        <OddAddressPanel />
        <section class="panel panel-body" aria-labelledby="senders">
          <h2 id="senders">Senders and signatures</h2>
          <p class="second">Further addresses your emails come from, and the key that signs them.</p>
          <p class="whole"><NuxtLink to="/senders">Senders and their domains</NuxtLink></p>
        </section>
        <section class="panel panel-body" aria-labelledby="webhooks">
          <h2 id="webhooks">Webhooks</h2>
          <p class="second">House rules can call other services, and other services can call in about a subscriber.</p>
          <p class="whole"><NuxtLink to="/webhooks">Webhooks and their calls</NuxtLink></p>
        </section>
        <section class="panel panel-body" aria-labelledby="programs">
          <h2 id="programs">Your own programs</h2>
          <p class="second">Your shop, script or spreadsheet can read and change things here. Each has its own key, with the permissions
            you choose.</p>
          <p class="whole"><NuxtLink to="/keys">Keys for programs</NuxtLink></p>
        </section>
        <section class="panel panel-body" aria-labelledby="whole">
          <h2 id="whole">Export everything</h2>
          <p class="second">Everything you made and everyone’s history, as one open JSON file. For a table of people,
            <NuxtLink to="/subscribers">Subscribers</NuxtLink> exports CSV.</p>
          <p class="whole"><a :href="hrefOf('GET /workspace/export', {})" download>Export the whole workspace as JSON</a></p>
        </section>
      </div>
      <div class="stack">
        <ScorePanel />
        <SummaryPanel :address="settings.senderAddress" />
        <ConsentPanel />
        <SignInPanel />
        <template v-if="live">
          <CarrierPanel :settings="settings" @resumed="load" />
          <PacePanel />
        </template>
        <LivePanel v-else-if="!frame.frame?.hasLive" :smtp-from-environment="settings.smtpFromEnvironment" :saved="times" />
        <section v-else class="panel panel-body fields" aria-label="Live">
          <h2>You have a live workspace</h2>
          <p class="second">It has its own pages, courses, people and settings. Go to it at the bottom left. What you change here stays in
            practice.</p>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.whole { padding-top: 8px; font-weight: 600; }
.two { grid-template-columns: minmax(0, 1.2fr) minmax(0, 1fr); }
@media (max-width: 900px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
