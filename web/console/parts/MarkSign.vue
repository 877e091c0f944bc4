<script setup lang="ts">
import { shapes, type SignKey } from './signs';

const { sign } = defineProps<{ sign: SignKey }>();
</script>

<template>
  <svg
    width="16"
    height="16"
    viewBox="0 0 16 16"
    :class="{ call: sign === 'torn_sheet' || sign === 'dotted_outline' || sign === 'raised_flag' }"
    aria-hidden="true"
  >
    <component :is="shape.tag" v-for="(shape, i) in shapes[sign]" :key="i" v-bind="shape.attributes" />
  </svg>
</template>
