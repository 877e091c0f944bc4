<script setup lang="ts">
import { computed } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import type { SignKey } from '../parts/signs';

const { face } = defineProps<{ face: 'fields' | 'products' | 'destinations' }>();

const asking: [SignKey, string][] = [
  ['must', 'asked, must be answered'],
  ['asked', 'asked'],
  ['must_if', 'under a condition'],
];
const words = computed<[SignKey, string][]>(() =>
  face === 'fields'
    ? [['goes', 'goes there'], ['goes_if', 'under a condition'], ['goes_cut', 'only so long'], ['stays', 'does not go'], ...asking]
    : face === 'products'
      ? [...asking, ['stays', 'not asked']]
      : [
          ['must', 'waits for it'],
          ['must_if', 'if …'],
          ['goes', 'takes'],
          ['goes_cut', 'only so long'],
          ['flagged_hole', 'left out'],
          ['folded_sheet', 'shown, included'],
          ['sealed_sheet', 'confirmed'],
        ],
);
</script>

<template>
  <ul>
    <li v-for="[sign, word] in words" :key="sign"><MarkSign :sign="sign" /> {{ word }}</li>
    <li v-if="face !== 'destinations'"><kbd>Space</kbd> switch</li>
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
