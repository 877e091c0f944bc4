<script setup lang="ts">
import PriceSum from '../../entry/PriceSum.vue';
import type { Schemas } from '../../shared/api/client';
import ToldAnswers from './ToldAnswers.vue';
import { say } from '../../shared/wording';

/** An order as its shopper sees it: what was ordered, and what was told us. */
defineProps<{ order: Schemas['OrderPageView'] }>();
</script>

<template>
  <section v-for="line in order.lines" :key="line.id">
    <h2>
      <span>{{ line.quantity }} × {{ line.name }}</span> <span class="sum-of">{{ line.sum }}</span>
    </h2>
    <ToldAnswers :entries="order.entries" :line="line.id" :units="line.units" />
  </section>
  <PriceSum class="sums" :prices="order.prices" :units="order.lines.flatMap((l) => l.units.map((u) => ({ ...u, line_id: l.id })))" />
  <section v-if="order.entries.some((e) => e.line_id === null)">
    <h2>{{ say('shop.your_details') }}</h2>
    <ToldAnswers :entries="order.entries" />
  </section>
</template>

<style scoped>
section {
  border-top: 1px solid var(--shop-rule);
  padding: 0.8rem 0 0.2rem;
}
h2 {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
}
h2 .sum-of {
  font: 400 1rem var(--work);
}
.sums {
  margin: 0.5rem 0 1.5rem;
}
</style>
