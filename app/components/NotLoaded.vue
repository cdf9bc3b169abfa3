<script setup lang="ts">
/** Stands where a part of a screen could not be fetched. What is typed elsewhere on the screen is kept. */
const reload = () => window.location.reload()
</script>

<template>
  <p class="note brick" role="alert">
    This part could not be loaded. Check your connection, then
    <button type="button" class="link-button" @click="reload">reload the page</button>.
  </p>
</template>
