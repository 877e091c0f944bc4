<template>
  <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
    <path d="M4 2.5h11l3 3v14H4z" fill="none" stroke="currentColor" stroke-width="1.6" />
    <path d="M4 8h14M4 12h14M4 16h14" stroke="currentColor" />
    <circle cx="8" cy="8" r="2" fill="var(--brass)" stroke="currentColor" />
    <circle cx="13" cy="12" r="2" fill="var(--brass)" stroke="currentColor" />
  </svg>
</template>
