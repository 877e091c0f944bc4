<script setup lang="ts">
import { computed } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';

const { face } = defineProps<{ face: 'destinations' | 'products' }>();

const asking: [SignKey, string][] = [
  ['must', 'asked, must be answered'],
  ['asked', 'asked'],
  ['must_if', 'under a condition'],
];
const words = computed<[SignKey, string][]>(() =>
  face === 'destinations'
    ? [['goes', 'goes there'], ['goes_if', 'under a condition'], ['stays', 'does not go'], ...asking]
    : [...asking, ['stays', 'not asked']],
);
</script>

<template>
  <ul>
    <li v-for="[sign, word] in words" :key="sign"><MarkSign :sign="sign" /> {{ word }}</li>
    <li><kbd>Space</kbd> switch</li>
  </ul>
</template>

<style scoped>
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: inline-flex;
  gap: 4px;
  align-items: center;
}
</style>
