<script setup lang="ts">
import type { Answer, Asked } from '../answers';

/** Shows what was worked out from the other answers; there is nothing to enter. */
const { asked, id } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
defineModel<Answer | undefined>();
</script>

<template>
  <output :id="id" class="entry-worked" :aria-labelledby="`${id}-label`">{{ asked.text || '—' }}</output>
</template>
