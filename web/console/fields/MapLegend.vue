<script setup lang="ts">
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';

const words: [SignKey, string][] = [
  ['goes', 'goes there'],
  ['stays', 'does not go'],
  ['must', 'asked, must be answered'],
  ['asked', 'asked'],
];
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
