<template>
  <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true">
    <path
      d="M2.500 10.500 12 3l9.500 7.500" fill="none" stroke="var(--p-porch-lamp)" stroke-width="2" stroke-linecap="round"
      stroke-linejoin="round" />
    <path d="M5.500 10.500v10M18.500 10.500v10M2 21.500h20" fill="none" stroke="#fff" stroke-width="2" stroke-linecap="round" />
    <circle cx="12" cy="14" r="2" fill="var(--p-porch-lamp)" />
  </svg>
</template>
