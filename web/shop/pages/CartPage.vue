<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { sentenceOf } from '../../shared/api/client';
import { cart, loadCart } from '../catalogue';
import CartLine from '../parts/CartLine.vue';
import PriceSum from '../parts/PriceSum.vue';

const failure = ref('');
const lines = computed(() => cart.value?.cart.lines ?? []);
const problems = computed(() => cart.value?.evaluation.problems.filter((p) => p.line_id !== null) ?? []);

onMounted(async () => {
  try {
    await loadCart();
  } catch (error) {
    failure.value = sentenceOf(error);
  }
});
</script>

<template>
  <div class="sheet narrow">
    <h1>Cart</h1>
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="lines.length && cart">
      <ul>
        <CartLine v-for="line in lines" :key="line.id" :line="line" />
      </ul>
      <PriceSum :prices="cart.evaluation.prices" />
      <p v-if="problems.length" class="problem">Something is still to be filled in above.</p>
      <p v-else class="go"><RouterLink class="buy" to="/checkout/contact">Go to checkout</RouterLink></p>
    </template>
    <p v-else-if="!failure">The cart is empty. <RouterLink to="/">See what we grow, make and do</RouterLink></p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 1.5rem;
  padding: 0;
  border-top: 2px solid var(--shop-bark);
}
.go {
  margin: 2rem 0 0;
  text-align: right;
}
.go a {
  text-decoration: none;
}
</style>
