<script setup lang="ts">
import Dialog from '~/components/DialogBox'
import { KEYS } from '~/words/keys'

/** The keys that do something. */
const visible = defineModel<boolean>('visible', { required: true })
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Keys" :style="{ width: '520px' }" dismissable-mask>
    <div class="keys">
      <section v-for="part in KEYS" :key="part.where">
        <h3>{{ part.where }}</h3>
        <dl>
          <template v-for="one in part.keys" :key="one.does">
            <dt><template v-for="(key, n) in one.press" :key="key"><template v-if="n > 0"> + </template><kbd>{{ key }}</kbd></template></dt>
            <dd>{{ one.does }}</dd>
          </template>
        </dl>
      </section>
    </div>
  </Dialog>
</template>

<style scoped>
.keys { display: grid; gap: 14px; }
dl { display: grid; grid-template-columns: 150px minmax(0, 1fr); gap: 6px 12px; margin: 6px 0 0; }
dd { margin: 0; }
kbd {
  padding: 1px 7px; border: 1px solid var(--p-porch-line); border-bottom-width: 2px; border-radius: 4px; background: var(--p-porch-rail);
  font: 13px var(--mono);
}
</style>
