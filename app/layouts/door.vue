<template>
  <main class="door">
    <slot />
  </main>
</template>

<style scoped>
.door {
  min-height: 100vh; display: grid; place-items: center; padding: 24px;
  background:
    repeating-linear-gradient(transparent 0 27px, var(--p-porch-dusk-line) 27px 28px),
    var(--p-porch-dusk);
}
</style>
