<script setup lang="ts">
defineProps<{ here: string }>();

const steps = [
  { key: 'cart', name: 'Cart', to: '/cart' },
  { key: 'contact', name: 'Contact', to: '/checkout/contact' },
  { key: 'delivery', name: 'Delivery', to: '/checkout/delivery' },
  { key: 'payment', name: 'Payment', to: '/checkout/payment' },
];
</script>

<template>
  <nav aria-label="Steps">
    <ol>
      <li v-for="step in steps" :key="step.key">
        <RouterLink :to="step.to" :aria-current="step.key === here ? 'step' : undefined">{{ step.name }}</RouterLink>
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
