<script setup lang="ts">
import { computed } from 'vue'
import { navigateTo } from '#imports'
import Button from 'primevue/button'
import { RULE_TEMPLATES, ruleOfTemplate } from '#core/rules/templates'
import { sayRuleParts } from '#core/rules/say'
import { useRuleParts } from '~/composables/useParts'
import { ruleNamesFrom } from '~/rules/choices'
import { hasFor, ruleTemplatePartsOf } from '~/rules/templates'
import { useFrame } from '~/stores/frame'
import RuleSentence from './RuleSentence.vue'

/** Ready rules with their reasons. Copying one opens it with things of this workspace in it, to be looked over and saved. */
const frame = useFrame()
const parts = useRuleParts()
const made = computed(() => ruleTemplatePartsOf(parts.value))
const has = computed(() => hasFor(made.value))
const names = computed(() => ruleNamesFrom(parts.value, frame.zone))
const templates = computed(() => RULE_TEMPLATES.map((template, n) => ({
  n, name: template.name, reason: template.reason, missing: template.needs.filter(need => !has.value[need]),
  said: sayRuleParts(ruleOfTemplate(template, made.value), names.value),
})))
const copy = (n: number) => navigateTo(`/house-rules/new?template=${n}`)
</script>

<template>
  <ul class="templates">
    <li v-for="template in templates" :key="template.n">
      <div class="head">
        <h3>{{ template.name }}</h3>
        <Button
          :label="template.missing.length ? 'Not yet' : 'Copy it'" size="small" severity="secondary" :disabled="template.missing.length > 0"
          :aria-label="`Copy the rule: ${template.name}`" @click="copy(template.n)" />
      </div>
      <p class="second">{{ template.reason }}</p>
      <p v-if="template.missing.length" class="small second">Make
        {{ template.missing.map(need => `${need === 'offer' ? 'an' : 'a'} ${need}`).join(' and ') }} first.</p>
      <RuleSentence v-else :said="template.said" class="small" />
    </li>
  </ul>
</template>

<style scoped>
.templates { list-style: none; margin: 0; padding: 0; display: grid; }
.templates > li { display: grid; gap: 4px; padding: 12px 0; border-bottom: 1px solid var(--p-porch-line-light); }
.head { display: flex; align-items: center; justify-content: space-between; gap: 12px; }
</style>
