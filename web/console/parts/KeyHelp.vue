<script setup lang="ts">
import { computed, onMounted, onUnmounted, useTemplateRef } from 'vue';
import { singleKeys } from './singleKeys';

const { view } = defineProps<{ view: string }>();
const emit = defineEmits<{ close: [] }>();

const keysOf: Record<string, [string, string][]> = {
  fields: [
    ['↑ ↓ ← →', 'go over the map'],
    ['Enter', 'open the field'],
    ['Space', 'switch a mark on or off'],
    ['/', 'find a field'],
    ['+', 'new field'],
    ['Ctrl+Z', 'undo your last change'],
  ],
  wording: [
    ['/', 'find a text'],
    ['Ctrl+Enter', 'keep what you typed'],
    ['Esc', 'leave it as it was'],
  ],
  orders: [
    ['↑ ↓ ← →', 'go along the thread'],
    ['Enter', 'open the evidence of a mark'],
    ['Esc', 'close the evidence'],
  ],
};

const keys = computed(() => [...(keysOf[view] ?? []), ['?', 'show or hide these keys']] as [string, string][]);
const isOff = (key: string) => key.length === 1 && !/[↑↓←→]/.test(key) && !singleKeys.value;
const root = useTemplateRef<HTMLElement>('root');
// Afterwards the focus is where it was.
const before = document.activeElement;
onMounted(() => root.value?.focus());
onUnmounted(() => before instanceof HTMLElement && before.isConnected && before.focus());
</script>

<template>
  <aside ref="root" role="dialog" aria-label="Keys" tabindex="-1" @keydown.esc="emit('close')">
    <h2>Keys</h2>
    <dl>
      <template v-for="[key, does] in keys" :key="key">
        <dt>
          <kbd :class="{ soft: isOff(key) }">{{ key }}</kbd>
        </dt>
        <dd>{{ does }}<template v-if="isOff(key)">, switched off</template></dd>
      </template>
    </dl>
    <p class="small">
      Single characters act while a list, table or map has the focus.
      <label><input v-model="singleKeys" type="checkbox" /> Let them act</label>
    </p>
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
label {
  display: block;
  min-height: 24px;
}
p {
  max-width: 230px;
}
</style>
