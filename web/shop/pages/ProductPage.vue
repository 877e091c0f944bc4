<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import EntryForm from '../../entry/EntryForm.vue';
import type { Answers } from '../../entry/answers';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { cart, productOf, said } from '../catalogue';
import PriceSum from '../parts/PriceSum.vue';
import QuantityEntry from '../parts/QuantityEntry.vue';

const { code } = defineProps<{ code: string }>();
const router = useRouter();

const LINE = 'new';
const STEP = 'product_page';
const answers = ref<Answers>({});
const quantity = ref(1);
const evaluation = ref<Schemas['EvaluationView']>();
const showAll = ref(false);
const busy = ref(false);
const failure = ref('');
const form = useTemplateRef('form');

const product = computed(() => productOf(code));
const asked = computed(() => evaluation.value?.asked.filter((a) => a.line_id === LINE && a.step === STEP) ?? []);
const problems = computed(() => evaluation.value?.problems.filter((p) => p.line_id === LINE && p.step === STEP) ?? []);

const evaluate = latest(
  (line: { quantity: number; answers: Answers }) =>
    ask(api.POST('/api/shop/v1/evaluate', { body: { language: 'en', lines: [{ id: LINE, product_code: code, ...line }], answers: {} } })),
  (result) => {
    evaluation.value = result;
    failure.value = '';
  },
  (error) => (failure.value = sentenceOf(error)),
);

const line = () => ({ quantity: quantity.value, answers: answers.value });

watch([answers, quantity], () => evaluate.soon(line()));
watch(
  () => code,
  () => {
    answers.value = {};
    quantity.value = 1;
    showAll.value = false;
    void evaluate.now(line());
  },
  { immediate: true },
);

async function add(): Promise<void> {
  busy.value = true;
  try {
    await evaluate.now(line());
    showAll.value = true;
    if (problems.value.length > 0) {
      await nextTick();
      form.value?.focusFirstProblem();
      return;
    }
    cart.value = await ask(api.POST('/api/shop/v1/cart/lines', { body: { product: code, ...line() } }));
    said.value = `${product.value?.name} is in the cart.`;
    await router.push('/cart');
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div v-if="product" class="sheet product">
    <div class="left">
      <img :src="`/pictures/${product.picture}`" alt="" width="470" height="300" />
      <PriceSum v-if="evaluation" :prices="evaluation.prices" />
    </div>
    <form novalidate @submit.prevent="add">
      <h1>{{ product.name }}</h1>
      <p class="price">{{ product.price }} each</p>
      <p>{{ product.description }}</p>
      <EntryForm v-if="asked.length" ref="form" v-model="answers" class="asked" :asked="asked" :problems="problems" :show-all="showAll" prefix="line" />
      <QuantityEntry id="quantity" v-model="quantity" class="many" />
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
      <button class="buy" :disabled="busy">Put {{ quantity }} in the cart</button>
    </form>
  </div>
  <div v-else class="sheet"><h1>This is not sold here.</h1><RouterLink to="/">See what is</RouterLink></div>
</template>

<style scoped>
.product {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  gap: 3.5rem;
}
img {
  width: 100%;
  height: auto;
  background: var(--shop-wash);
  margin-bottom: 1.2rem;
}
h1 {
  margin-bottom: 0.3rem;
}
.price {
  font-size: 1.2rem;
  margin: 0 0 0.6rem;
}
.asked {
  border-top: 2px solid var(--shop-bark);
  padding-top: 1rem;
}
.many {
  margin: 1.3rem 0;
}
@media (max-width: 48rem) {
  .product {
    grid-template-columns: 1fr;
    gap: 1rem;
  }
}
</style>
