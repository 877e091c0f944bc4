<script setup lang="ts">
import { onBeforeUnmount, onMounted, useTemplateRef } from 'vue';

/** Says in its place what follows from something before it is done. */
const { sentence, act } = defineProps<{ sentence: string; act: string }>();
const emit = defineEmits<{ do: []; leave: [] }>();

const button = useTemplateRef<HTMLElement>('button');
const before = document.activeElement;
onMounted(() => button.value?.focus());
onBeforeUnmount(() => before instanceof HTMLElement && before.isConnected && before.focus());
</script>

<template>
  <p class="follows small" role="group" :aria-label="act" @keydown.esc="emit('leave')">
    {{ sentence }}
    <button ref="button" class="act" type="button" @click="emit('do')">{{ act }}</button>
    <button class="act" type="button" @click="emit('leave')">leave it as it is</button>
  </p>
</template>

<style scoped>
.follows {
  margin: 8px 0 0;
  padding: 8px 0 0;
  border-top: 1px solid var(--rule-strong);
}
.act {
  margin-left: 12px;
}
</style>
