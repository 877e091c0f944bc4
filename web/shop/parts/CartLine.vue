<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import LineForm from '../../entry/LineForm.vue';
import type { Answers, Evaluated, Unit } from '../../entry/answers';
import { sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { useWork } from '../../shared/work';
import { evaluateCart, useCart } from '../cart';
import { nameOf, productOf, said } from '../catalogue';
import QuantityEntry from './QuantityEntry.vue';
import ToldAnswers from './ToldAnswers.vue';

const { line } = defineProps<{ line: Schemas['CartLine'] }>();
const basket = useCart('cart');

const open = ref(false);
const answers = ref<Answers>({});
const units = ref<Unit[]>([]);
const quantity = ref(1);
const preview = ref<Evaluated>();
const showAll = ref(false);
const { busy, failure, run } = useWork();
const form = useTemplateRef('form');

const cart = computed(() => basket.view.value);
const product = computed(() => productOf(line.product_code));
const sum = computed(() => cart.value?.evaluation.prices.lines.find((l) => l.line_id === line.id)?.sum);
const names = computed(() => cart.value?.evaluation.units.filter((u) => u.line_id === line.id) ?? []);
const here = (all: Schemas['ProblemView'][] | undefined) => all?.filter((p) => p.line_id === line.id && (!p.field || ['product_page', 'cart'].includes(p.step))) ?? [];
const problems = computed(() => here(cart.value?.evaluation.problems));
// Two seats without a name are one thing to say.
const sentences = computed(() => [...new Set(problems.value.map((p) => p.sentence))]);
const evaluation = computed(() => preview.value ?? cart.value?.evaluation);

const evaluate = latest(
  () => {
    const lines = cart.value!.cart.lines!.map((l) => (l.id === line.id ? { ...l, quantity: quantity.value, answers: answers.value, units: units.value } : l));
    return evaluateCart({ ...cart.value!.cart, lines });
  },
  (result) => {
    preview.value = result;
    failure.value = '';
  },
  (error) => (failure.value = sentenceOf(error)),
);

async function change(): Promise<void> {
  answers.value = { ...line.answers };
  units.value = [...(line.units ?? [])];
  quantity.value = line.quantity;
  preview.value = undefined;
  showAll.value = problems.value.length > 0;
  open.value = true;
  await nextTick();
  form.value?.focusFirstProblem();
}

function changed(): void {
  evaluate.soon(undefined);
}

async function save(): Promise<void> {
  await run(async () => {
    await evaluate.now(undefined);
    if (failure.value) return;
    showAll.value = true;
    if (here(preview.value?.problems).length > 0) {
      await nextTick();
      form.value?.focusFirstProblem();
      return;
    }
    await basket.change(line.id, quantity.value, answers.value, units.value.slice(0, quantity.value));
    open.value = false;
    said.value = 'Changed.';
  });
}

async function remove(): Promise<void> {
  await run(async () => {
    await basket.change(line.id, 0);
    said.value = `${product.value?.name} was taken out of the cart.`;
  });
}
</script>

<template>
  <li>
    <img v-if="product" :src="`/pictures/${product.picture}`" alt="" width="120" height="76" />
    <div>
      <h2>{{ line.quantity }} × {{ nameOf(line) }}</h2>
      <template v-if="!open">
        <ToldAnswers :entries="cart?.entries ?? []" :line="line.id" :units="names" />
        <p v-for="sentence in sentences" :key="sentence" class="problem">{{ sentence }}</p>
        <button class="plain" type="button" @click="change">Change<span class="visually-hidden"> {{ nameOf(line) }}</span></button>
        <button class="plain" type="button" :disabled="busy" @click="remove">Take out<span class="visually-hidden"> {{ nameOf(line) }}</span></button>
      </template>
      <div v-else-if="evaluation" role="group" :aria-label="`Change ${nameOf(line)}`">
        <QuantityEntry :id="`${line.id}-quantity`" v-model="quantity" v-model:units="units" class="many" :names="evaluation.units.filter((u) => u.line_id === line.id)" @update:model-value="changed" />
        <LineForm ref="form" v-model:answers="answers" v-model:units="units" :evaluation="evaluation" :line="line.id" :show-all="showAll" :prefix="line.id" :level="3" @update:answers="changed" @update:units="changed" />
        <p class="do">
          <button class="buy" type="button" :disabled="busy" @click="save">Keep the change</button>
          <button class="plain back" type="button" @click="open = false">Leave it as it was</button>
        </p>
      </div>
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    </div>
    <p class="price">{{ sum }}</p>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 120px 1fr auto;
  gap: 1.2rem;
  border-bottom: 1px solid var(--shop-rule);
  padding: 1rem 0;
}
h2 {
  font-size: 1.05rem;
}
img {
  background: var(--shop-wash);
}
.plain + .plain,
.back {
  margin-left: 1rem;
}
.many {
  margin: 0.6rem 0 1rem;
}
.price {
  margin: 0;
}
@media (max-width: 36rem) {
  li {
    grid-template-columns: 1fr auto;
  }
  img {
    display: none;
  }
}
</style>
