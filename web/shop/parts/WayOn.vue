<script setup lang="ts">
import { computed } from 'vue';
import type { Evaluated } from '../../entry/answers';
import { headingOf, pageOf, stepsOf } from '../steps';
import { say } from '../../shared/wording';

/** What comes after this page, and the way back to what came before. */
const { here, evaluation } = defineProps<{ here: string; evaluation: Evaluated }>();

const steps = computed(() => stepsOf(evaluation));
const index = computed(() => steps.value.findIndex((s) => s.key === here));
const before = computed(() => steps.value.slice(0, Math.max(0, index.value)));
const after = computed(() => steps.value.slice(index.value + 1));
</script>

<template>
  <p class="soft">
    <template v-if="after.length">{{ say('shop.then', after.map(headingOf).join(' · ')) }}{{ ' ' }}</template>
    <template v-if="before.length"
      >{{ say('shop.back_to') }}
      <template v-for="(step, i) in before" :key="step.key"
        ><template v-if="i"> · </template><RouterLink :to="pageOf(step.key)">{{ headingOf(step) }}</RouterLink></template
      >.</template
    >
  </p>
</template>
