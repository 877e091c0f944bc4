<script setup lang="ts">
import type { Answer, Asked } from '../answers';

/** Shows what was worked out, or given by the page; there is nothing to enter by hand. */
const { asked, id, describedBy } = defineProps<{ asked: Asked; id: string; describedBy?: string; invalid: boolean }>();
defineModel<Answer | undefined>();
</script>

<template>
  <output :id="id" class="entry-worked" :aria-labelledby="`${id}-label`" :aria-describedby="describedBy">{{ asked.text || '—' }}</output>
</template>
