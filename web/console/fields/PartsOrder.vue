<script setup lang="ts">
import { computed, nextTick, useTemplateRef } from 'vue';

/** The order of the parts of an item code, set by moving them. What was never moved stands behind, as the fields stand. */
const { order, parts, label } = defineProps<{ order: string[]; parts: { key: string; name: string }[]; label: string }>();
const emit = defineEmits<{ save: [order: string[]] }>();

// What stands for the goods among the parts.
const GOODS = 'goods';
const root = useTemplateRef<HTMLElement>('root');
const inOrder = computed(() => {
  const at = (key: string) => (order.includes(key) ? order.indexOf(key) : key === GOODS ? -1 : order.length);
  return [...parts].sort((a, b) => at(a.key) - at(b.key));
});

async function move(from: number, by: -1 | 1): Promise<void> {
  const keys = inOrder.value.map((p) => p.key);
  const [moved] = keys.splice(from, 1);
  keys.splice(from + by, 0, moved!);
  emit('save', keys);
  // The same part is moved on by the same key.
  await nextTick();
  const buttons = root.value?.querySelectorAll<HTMLButtonElement>(`[data-part="${moved}"] button:not(:disabled)`) ?? [];
  (by < 0 ? buttons[0] : buttons[buttons.length - 1])?.focus();
}
</script>

<template>
  <ol ref="root" class="parts" :aria-label="`Order of the parts of ${label}`">
    <li v-for="(part, i) in inOrder" :key="part.key" :data-part="part.key">
      <button class="act" type="button" :disabled="i === 0" :aria-label="`Move forward: ${part.name}`" @click="move(i, -1)">←</button>
      {{ part.name }}
      <button class="act" type="button" :disabled="i === inOrder.length - 1" :aria-label="`Move back: ${part.name}`" @click="move(i, 1)">
        →
      </button>
    </li>
  </ol>
</template>

<style scoped>
.parts {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  margin: 0;
  padding: 0;
  list-style: none;
}
</style>
