<script setup lang="ts">
import type { Draft } from './draft';

/** The starter sets, in a sentence. */
const { draft } = defineProps<{ draft: Draft }>();
const emit = defineEmits<{ begin: [set: string] }>();
</script>

<template>
  <span>
    <template v-for="(set, i) in draft.starter_sets" :key="set.key">
      <template v-if="i">, </template>
      <button class="act" type="button" :title="set.line" @click="emit('begin', set.key)">{{ set.name }}</button>
    </template>
  </span>
</template>
