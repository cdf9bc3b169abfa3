<script setup lang="ts">
import { ref, watch } from 'vue'
import { qrPng, qrSvg } from '~/words/qr'

/** The QR code of an address, to be seen and taken along. */
const props = defineProps<{ url: string, name: string }>()
const svg = ref('')
const problem = ref('')
watch(() => props.url, async (url) => {
  problem.value = ''
  try {
    svg.value = await qrSvg(url)
  }
  catch {
    svg.value = ''
    problem.value = 'This address is too long for a QR code.'
  }
}, { immediate: true })

function give(blob: Blob, end: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(blob)
  link.download = `${props.name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '') || 'code'}.${end}`
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 1000)
}
const giveSvg = () => give(new Blob([svg.value], { type: 'image/svg+xml' }), 'svg')
const givePng = async () => give(new Blob([await qrPng(props.url)], { type: 'image/png' }), 'png')
</script>

<template>
  <div class="qr">
    <p v-if="problem" class="small second">{{ problem }}</p>
    <template v-else>
      <img
        v-if="svg" class="code" :src="`data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`" :alt="`QR code of ${url}`" width="132"
        height="132" />
      <p class="ways">
        <button type="button" class="link-button small" @click="giveSvg">As SVG</button>
        <button type="button" class="link-button small" @click="givePng">As PNG</button>
      </p>
    </template>
  </div>
</template>

<style scoped>
.qr { display: grid; gap: 4px; justify-items: start; }
.code { width: 132px; height: 132px; background: #fff; border: 1px solid var(--p-porch-line); border-radius: 6px; overflow: hidden; }
.ways { display: flex; gap: 14px; }
</style>
