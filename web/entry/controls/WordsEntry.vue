<script setup lang="ts">
import type { Asked } from '../answers';

defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
</script>

<template>
  <p :id="id" class="entry-words">{{ asked.settings.words }}</p>
</template>
