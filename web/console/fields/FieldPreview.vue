<script setup lang="ts">
import Select from 'primevue/select';
import { computed, provide, ref, watch } from 'vue';
import EntryForm from '../../entry/EntryForm.vue';
import type { Answers } from '../../entry/answers';
import { countriesKey } from '../../entry/countries';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import type { Draft, DraftField } from './draft';

/** What the shopper sees of a field, for a stand-in cart, from the same call that the shop makes. */
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();

// The preview only draws the list; which countries there are is the shop's own question.
provide(countriesKey, { IE: 'Ireland', GB: 'United Kingdom' });

const LINE = 'preview';
const answers = ref<Answers>({});
const product = ref('');
const evaluation = ref<Schemas['EvaluationView']>();
const failure = ref('');

const isLine = computed(() => field.field.level === 'line');
const products = computed(() => {
  const scope = field.field.asked_of;
  const asking = draft.products.filter((p) => !isLine.value || scope?.all || scope?.products?.includes(p.code));
  return asking.length ? asking : draft.products;
});
const asked = computed(() => evaluation.value?.asked.filter((a) => a.field === field.field.key) ?? []);
const problems = computed(() => evaluation.value?.problems.filter((p) => p.field === field.field.key) ?? []);

const evaluate = latest(
  () => {
    const line = { id: LINE, product_code: product.value, quantity: 1, answers: isLine.value ? answers.value : {} };
    return ask(api.POST('/api/console/v1/draft/evaluate', { body: { language: 'en', lines: [line], answers: isLine.value ? {} : answers.value } }));
  },
  (result) => {
    evaluation.value = result;
    failure.value = '';
  },
  (error) => (failure.value = sentenceOf(error)),
  120,
);

watch(
  () => field.field.key,
  () => (answers.value = {}),
);
watch(
  products,
  (all) => {
    if (!all.some((p) => p.code === product.value)) product.value = all[0]?.code ?? '';
  },
  { immediate: true },
);
watch([() => field, product, answers], () => product.value && evaluate.soon(undefined), { immediate: true });
</script>

<template>
  <section class="preview" aria-label="What the shopper sees">
    <p class="small soft">
      Shown to a cart with 1 ×
      <Select v-model="product" class="words" :options="products" option-label="name" option-value="code" aria-label="Product in the stand-in cart" />
    </p>
    <div class="shop">
      <EntryForm v-if="asked.length" v-model="answers" :asked="asked" :problems="problems" :show-all="false" prefix="preview" />
      <p v-else-if="failure" class="call">{{ failure }}</p>
      <p v-else class="not">not asked: no product in this cart asks it</p>
    </div>
  </section>
</template>

<style scoped>
.preview {
  background: var(--wash);
  border-top: 1px solid var(--rule-strong);
  padding: 8px var(--edge) 14px;
}
p {
  margin: 0 0 6px;
}
.shop {
  background: var(--artefact);
  color: var(--artefact-ink);
  border: 1px solid var(--rule-strong);
  padding: 10px 12px;
  max-height: 240px;
  overflow: auto;
}
.not {
  margin: 0;
}
</style>
