<script setup lang="ts">
import { computed, onMounted, useTemplateRef } from 'vue';

const { view } = defineProps<{ view: string }>();
const emit = defineEmits<{ close: [] }>();

const keysOf: Record<string, [string, string][]> = {
  fields: [
    ['↑ ↓ ← →', 'go over the map'],
    ['Enter', 'open the field'],
    ['Space', 'switch a mark on or off'],
    ['/', 'find a field'],
    ['n', 'new field'],
    ['Ctrl+Z', 'undo your last change'],
  ],
  orders: [
    ['↑ ↓ ← →', 'go along the thread'],
    ['Enter', 'open the evidence of a mark'],
    ['Esc', 'close the evidence'],
  ],
};

const keys = computed(() => [...(keysOf[view] ?? []), ['?', 'show or hide these keys']]);
const root = useTemplateRef<HTMLElement>('root');
onMounted(() => root.value?.focus());
</script>

<template>
  <aside ref="root" role="dialog" aria-label="Keys" tabindex="-1" @keydown.esc="emit('close')">
    <h2>Keys</h2>
    <dl>
      <template v-for="[key, does] in keys" :key="key">
        <dt>
          <kbd>{{ key }}</kbd>
        </dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
    <button class="act" @click="emit('close')">Close</button>
  </aside>
</template>

<style scoped>
aside {
  position: fixed;
  right: var(--edge);
  top: 56px;
  z-index: 10;
  background: var(--sheet);
  border: 1px solid var(--ink);
  padding: 14px 18px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 6px 14px;
  margin: 10px 0;
}
dd {
  margin: 0;
}
</style>
