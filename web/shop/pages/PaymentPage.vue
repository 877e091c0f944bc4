<script setup lang="ts">
import { computed, onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ApiError, sentenceOf } from '../../shared/api/client';
import { cart, catalogue, loadCart } from '../catalogue';
import PriceSum from '../parts/PriceSum.vue';
import StepTrack from '../parts/StepTrack.vue';
import { begun, pay, testCards, tokenFor } from '../payment';

const router = useRouter();
const card = ref('');
const busy = ref(false);
const failure = ref('');
const problems = computed(() => cart.value?.evaluation.problems ?? []);

const pages: Record<string, string> = { contact: '/checkout/contact', delivery: '/checkout/delivery' };
const pageOf = (step: string) => pages[step] ?? '/cart';

async function submit(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  failure.value = '';
  try {
    const payment = begun.read() ?? { key: crypto.randomUUID(), token: await tokenFor(catalogue.value!.payments_url, card.value) };
    begun.write(payment);
    const attempt = await pay(payment);
    begun.clear();
    if (attempt.order_token) {
      await loadCart();
      await router.push(`/orders/${attempt.order_token}`);
    } else {
      failure.value = attempt.sentence;
    }
  } catch (error) {
    // After a lost connection the same payment is sent again; after a refusal a new one is made.
    if (error instanceof ApiError && error.problem.status !== 0 && error.problem.status < 500) begun.clear();
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}

onMounted(() => {
  if (begun.read()) void submit();
});
</script>

<template>
  <div class="sheet narrow">
    <StepTrack here="payment" />
    <h1>Payment</h1>
    <template v-if="busy && !card">
      <p role="status">The payment is being checked …</p>
    </template>
    <p v-else-if="!cart?.cart.lines?.length">The cart is empty. <RouterLink to="/">See what we grow, make and do</RouterLink></p>
    <template v-else>
      <ul v-if="problems.length" class="missing">
        <li v-for="problem in problems" :key="`${problem.line_id}${problem.field}`" class="problem">
          {{ problem.sentence }} <RouterLink :to="pageOf(problem.step)">Go there</RouterLink>
        </li>
      </ul>
      <PriceSum :prices="cart.evaluation.prices" />
      <form v-if="!problems.length" novalidate @submit.prevent="submit">
        <label for="card">Card number</label>
        <input id="card" v-model="card" inputmode="numeric" autocomplete="cc-number" required :aria-invalid="!!failure || undefined" aria-describedby="cards failure" />
        <div id="cards" class="soft">
          <p>This is a demo shop, and takes these cards only:</p>
          <ul>
            <li v-for="test in testCards" :key="test.number">
              <button type="button" class="plain" @click="card = test.number">{{ test.number }}</button> {{ test.does }}
            </li>
          </ul>
        </div>
        <p id="failure" class="problem" role="alert">{{ failure }}</p>
        <button class="buy" :disabled="busy">{{ busy ? 'Paying …' : `Pay ${cart.evaluation.prices.total}` }}</button>
      </form>
    </template>
  </div>
</template>

<style scoped>
form {
  margin-top: 1.5rem;
}
label {
  display: block;
  font-weight: 600;
  margin-bottom: 0.2rem;
}
input {
  width: min(100%, 20rem);
  min-height: 2.6rem;
  padding: 0.45rem 0.65rem;
  font: inherit;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
.missing {
  margin-bottom: 1.5rem;
}
#cards p {
  margin: 0.8rem 0 0;
}
#failure {
  min-height: 1.5em;
}
</style>
