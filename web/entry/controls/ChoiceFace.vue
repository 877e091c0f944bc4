<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';

defineProps<{ choice: Schemas['ChoiceView'] }>();
</script>

<template>
  <img v-if="choice.picture" :src="`/pictures/${choice.picture}`" alt="" width="56" height="36" />
  <span v-if="choice.colour" class="entry-swatch" :style="{ background: choice.colour }" aria-hidden="true"></span>
  <span>{{ choice.label }}</span>
</template>
