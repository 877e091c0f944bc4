<script setup lang="ts">
import { useTemplateRef } from 'vue';

/** Ways for a table to go out, in the slot, and for one to come in. */
const { words = 'Bring one in', accept, busy } = defineProps<{ words?: string; accept: string; busy: boolean }>();
const emit = defineEmits<{ file: [file: File] }>();

const chooser = useTemplateRef('chooser');

function bring(event: Event): void {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  // So that the same file can be chosen again, once it was mended.
  input.value = '';
  if (chosen) emit('file', chosen);
}

const focus = () => chooser.value?.focus();

defineExpose({ focus });
</script>

<template>
  <span class="ways">
    <slot />
    <label class="act"
      >{{ words }}<input ref="chooser" class="visually-hidden" type="file" :accept="accept" :disabled="busy" @change="bring"
    /></label>
  </span>
</template>

<style scoped>
.ways {
  display: inline-flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 16px;
}
.ways label:focus-within {
  outline: 2px solid var(--ink);
  outline-offset: 2px;
}
</style>
