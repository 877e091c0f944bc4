<script setup lang="ts">
import type { Evaluated } from '../../entry/answers';
import { pageOf, stepsOf } from '../steps';

defineProps<{ here: string; evaluation: Evaluated }>();
</script>

<template>
  <nav aria-label="Steps">
    <ol>
      <li v-for="step in stepsOf(evaluation)" :key="step.key">
        <RouterLink :to="pageOf(step.key)" :aria-current="step.key === here ? 'step' : undefined">{{ step.name }}</RouterLink>
      </li>
    </ol>
  </nav>
</template>

<style scoped>
ol {
  list-style: none;
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 1.5rem;
  margin: 0 0 1.2rem;
  padding: 0;
}
a {
  display: inline-block;
  padding: 0.25rem 0;
  text-decoration: none;
  color: var(--shop-soft);
}
a[aria-current] {
  color: var(--shop-ink);
  font-weight: 650;
  border-bottom: 2px solid var(--shop-bark);
}
</style>
