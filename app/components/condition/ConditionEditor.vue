<script setup lang="ts">
import { computed } from 'vue'
import type { Condition } from '#core/audience/condition'
import { ofParts, partsOf, type TwoParts } from '#core/audience/parts'
import { sayCondition } from '#core/audience/say'
import { namesFrom } from '~/audience/leaves'
import { useParts } from '~/composables/useParts'
import { useFrame } from '~/stores/frame'
import TermTip from '~/components/TermTip.vue'
import GroupRows from './GroupRows.vue'

/** A condition in its two parts: who belongs, but never. Read aloud as one sentence below. */
const condition = defineModel<Condition>({ required: true })
/** `bare`: what it says is read elsewhere on the screen. */
defineProps<{ segmentId: number | null, bare?: boolean }>()

const frame = useFrame()
const parts = useParts()

const two = computed(() => partsOf(condition.value))
const put = (change: Partial<TwoParts>) => {
  condition.value = ofParts({ ...two.value, ...change })
}
const says = computed(() => sayCondition(condition.value, namesFrom(parts.value, frame.zone)))
</script>

<template>
  <div class="editor">
    <section aria-label="People included">
      <h2>People included</h2>
      <p
        v-if="two.belongs.of.length === 0 && two.belongs.kind === 'all'" class="second small">Everybody, until you add a condition.</p>
      <GroupRows
        :model-value="two.belongs" label="Belongs" :level="1" :kinds="['all', 'any']" :segment-id="segmentId"
        @update:model-value="belongs => put({ belongs })" />
    </section>
    <section aria-label="But never">
      <h2>But <TermTip of="never">never</TermTip></h2>
      <p v-if="two.never.of.length === 0" class="second small">People who match any of these are left out.</p>
      <GroupRows
        :model-value="two.never" label="Never" :level="1" :kinds="['none']" :segment-id="segmentId"
        @update:model-value="never => put({ never })" />
    </section>
    <p v-if="!bare" class="says" role="status"><span class="second small">In one sentence:</span> people {{ says || 'of every kind' }}.</p>
  </div>
</template>

<style scoped>
.editor { display: grid; gap: 14px; }
h2 { font: 650 14.5px/1.4 var(--body); padding-bottom: 2px; }
.says { padding: 8px 12px; border-radius: 6px; background: var(--p-porch-rail); overflow-wrap: anywhere; }
</style>
