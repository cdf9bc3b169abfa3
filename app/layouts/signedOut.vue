<template>
  <main class="signed-out">
    <slot />
  </main>
</template>

<style scoped>
.signed-out {
  min-height: 100vh; display: grid; place-items: center; padding: 24px;
  background:
    repeating-linear-gradient(transparent 0 27px, var(--p-porch-dusk-line) 27px 28px),
    var(--p-porch-dusk);
}
</style>
