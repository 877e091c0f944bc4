<script setup lang="ts">
import type { Choice } from '../answers';

defineProps<{ choice: Choice }>();
</script>

<template>
  <img v-if="choice.picture" :src="`/pictures/${choice.picture}`" :alt="choice.picture_words" width="56" height="36" />
  <span v-if="choice.colour" class="entry-swatch" :style="{ background: choice.colour }" aria-hidden="true"></span>
  <span>{{ choice.label }}</span>
  <span v-if="choice.left" class="entry-left">{{ choice.left }}</span>
  <span v-if="choice.cost" class="entry-cost">{{ choice.cost }}</span>
</template>
