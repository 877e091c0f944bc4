<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import EntryForm from '../../entry/EntryForm.vue';
import type { Answers } from '../../entry/answers';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { cart, productOf, said } from '../catalogue';
import QuantityEntry from './QuantityEntry.vue';

const { line } = defineProps<{ line: Schemas['CartLine'] }>();

const open = ref(false);
const draft = ref<Answers>({});
const quantity = ref(1);
const preview = ref<Schemas['EvaluationView']>();
const showAll = ref(false);
const failure = ref('');
const form = useTemplateRef('form');

const product = computed(() => productOf(line.product_code));
const row = computed(() => cart.value?.evaluation.prices.rows.find((r) => r.line_id === line.id));
const entries = computed(() => cart.value?.entries.filter((e) => e.line_id === line.id) ?? []);
const ofLine = <T extends { line_id: string | null }>(all: T[] | undefined) => all?.filter((x) => x.line_id === line.id) ?? [];
const problems = computed(() => ofLine(cart.value?.evaluation.problems));
const asked = computed(() => ofLine((preview.value ?? cart.value?.evaluation)?.asked));
const draftProblems = computed(() => ofLine((preview.value ?? cart.value?.evaluation)?.problems));

const evaluate = latest(
  (answers: Answers) =>
    ask(api.POST('/api/shop/v1/evaluate', { body: { language: 'en', lines: [{ ...line, quantity: quantity.value, answers }], answers: {} } })),
  (result) => (preview.value = result),
  (error) => (failure.value = sentenceOf(error)),
);

async function change(): Promise<void> {
  draft.value = { ...(line.answers as Answers) };
  quantity.value = line.quantity;
  preview.value = undefined;
  showAll.value = problems.value.length > 0;
  open.value = true;
  await nextTick();
  form.value?.focusFirstProblem();
}

async function put(many: number, answers: Answers): Promise<boolean> {
  failure.value = '';
  try {
    cart.value = await ask(api.PUT('/api/shop/v1/cart/lines/{id}', { params: { path: { id: line.id } }, body: { quantity: many, answers } }));
    return true;
  } catch (error) {
    failure.value = sentenceOf(error);
    return false;
  }
}

async function save(): Promise<void> {
  await evaluate.now(draft.value);
  showAll.value = true;
  if (draftProblems.value.length > 0) {
    await nextTick();
    form.value?.focusFirstProblem();
  } else if (await put(quantity.value, draft.value)) {
    open.value = false;
    said.value = 'Changed.';
  }
}

async function remove(): Promise<void> {
  if (await put(0, {})) said.value = `${product.value?.name} was taken out of the cart.`;
}
</script>

<template>
  <li>
    <img v-if="product" :src="`/pictures/${product.picture}`" alt="" width="120" height="76" />
    <div>
      <h2>{{ line.quantity }} × {{ product?.name ?? line.product_code }}</h2>
      <template v-if="!open">
        <dl v-if="entries.length" class="told">
          <template v-for="entry in entries" :key="entry.slot">
            <dt>{{ entry.name }}</dt>
            <dd :data-slot="entry.slot">{{ entry.text }}</dd>
          </template>
        </dl>
        <p v-for="problem in problems" :key="`${problem.field}${problem.code}`" class="problem">{{ problem.sentence }}</p>
        <button class="plain" @click="change">Change</button>
        <button class="plain" @click="remove">Take out</button>
      </template>
      <form v-else novalidate @submit.prevent="save">
        <EntryForm ref="form" :model-value="draft" :asked="asked" :problems="draftProblems" :show-all="showAll" :prefix="line.id" @update:model-value="((draft = $event), evaluate.soon(draft))" />
        <QuantityEntry :id="`${line.id}-quantity`" v-model="quantity" class="many" />
        <button class="buy">Keep the change</button>
        <button class="plain back" type="button" @click="open = false">Leave it as it was</button>
      </form>
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    </div>
    <p class="price">{{ row?.sum }}</p>
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
.told {
  margin: 0;
}
.plain + .plain,
.back {
  margin-left: 1rem;
}
.many {
  margin: 1rem 0;
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
