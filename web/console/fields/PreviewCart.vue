<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import EntryForm from '../../entry/EntryForm.vue';
import LineForm from '../../entry/LineForm.vue';
import PriceSum from '../../entry/PriceSum.vue';
import { unfold, type Evaluated } from '../../entry/answers';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { fieldsIn, type Condition } from './condition';
import type { Draft } from './draft';
import { explained, type StandIn } from './standIn';
import WordInput from './WordInput.vue';

/** What one stand-in cart is asked of what is at hand, from the same rules that the shop asks by; and where it is not asked, why. */
const { draft, of, first, open } = defineProps<{ draft: Draft; of: string; first: boolean; open: boolean }>();
const standIn = defineModel<StandIn>({ required: true });

const LINE = 'preview';
const shown = ref<Omit<Schemas['PreviewView'], 'evaluation'> & { evaluation: Evaluated }>();
const failure = ref('');

const field = computed(() => draft.fields.find((f) => f.field.key === of)?.field);
const section = computed(() => draft.sections.find((s) => s.section.key === (field.value?.section ?? of))?.section);
const product = computed(() => draft.products.find((p) => p.code === standIn.value.product));

// What is at hand, the section that it stands in, and whatever its conditions read: so that they can be tried out here.
const keys = computed(() => {
  const own = section.value
    ? [section.value.key, ...draft.fields.filter((f) => f.field.section === section.value!.key).map((f) => f.field.key)]
    : [of];
  const read = [
    field.value?.when,
    field.value?.required_when,
    field.value?.refused_when,
    section.value?.when,
    ...Object.values(field.value?.goes_to_when ?? {}),
  ].flatMap((c) => fieldsIn(c as Condition | null));
  return new Set([...own, ...read]);
});

const isShown = (x: { field: string | null }) => !!x.field && keys.value.has(x.field);
const evaluation = computed(
  () =>
    shown.value && {
      ...shown.value.evaluation,
      asked: shown.value.evaluation.asked.filter(isShown),
      problems: shown.value.evaluation.problems.filter(isShown),
    },
);
const ofOrder = computed(() => evaluation.value?.asked.filter((a) => a.line_id === null) ?? []);
const orderProblems = computed(() => evaluation.value?.problems.filter((p) => p.line_id === null) ?? []);
const why = computed(() =>
  [
    ...new Set(
      shown.value?.not_asked.filter((n) => n.field === of || (section.value?.key === of && keys.value.has(n.field))).map((n) => n.why),
    ),
  ].join('; '),
);
// The code says something only where an answer contributes to it.
const coded = computed(() =>
  draft.fields.some((f) => keys.value.has(f.field.key) && f.field.code) ? shown.value?.evaluation.codes[0]?.code : undefined,
);
const isPriced = computed(() => draft.fields.some((f) => keys.value.has(f.field.key) && f.field.prices?.length));
const isAsked = computed(() => evaluation.value?.asked.some((a) => a.field === of || a.section === of));

const evaluate = latest(
  async () => {
    const { product: code, variant, quantity, group, country, answers, line, units } = standIn.value;
    const lines = [
      { id: LINE, product_code: code, variant_code: variant ?? null, quantity, answers: line, units: units.slice(0, quantity) },
    ];
    const preview = await ask(
      api.POST('/api/console/v1/draft/preview', {
        params: { query: { explain: of } },
        body: { language: 'en', group, country, lines, answers },
      }),
    );
    return { ...preview, evaluation: unfold(preview.evaluation) };
  },
  (result) => {
    shown.value = result;
    failure.value = '';
    if (first) explained.value = result.explained;
  },
  (error) => (failure.value = sentenceOf(error)),
  120,
);

function setProduct(code: string): void {
  standIn.value = { ...standIn.value, product: code, variant: draft.products.find((p) => p.code === code)?.variants[0]?.key };
}

function setQuantity(text: string): void {
  const quantity = Math.trunc(Number(text));
  if (quantity >= 1 && quantity <= 60) standIn.value = { ...standIn.value, quantity };
}

watch([() => draft, () => of, standIn], () => evaluate.soon(undefined), { immediate: true, deep: true });
</script>

<template>
  <div class="cart">
    <p class="small head">
      <template v-if="open">
        <WordInput :value="String(standIn.quantity)" label="Quantity in the stand-in cart" numeric @save="setQuantity" /> ×
        <Select
          class="words"
          :model-value="standIn.product"
          :options="draft.products"
          option-label="name"
          option-value="code"
          aria-label="Product in the stand-in cart"
          @update:model-value="setProduct"
        />
        <Select
          v-if="product?.variants.length"
          v-model="standIn.variant"
          class="words"
          :options="product.variants"
          option-label="name"
          option-value="key"
          aria-label="Variant in the stand-in cart"
        />
        ·
        <Select
          v-model="standIn.group"
          class="words"
          :options="draft.groups"
          option-label="name"
          option-value="key"
          aria-label="Shopper group of the stand-in cart"
        />,
        <Select
          v-model="standIn.country"
          class="words"
          :options="draft.countries"
          option-label="name"
          option-value="key"
          aria-label="Country of the stand-in cart"
        />
      </template>
      <b v-else
        >{{ standIn.quantity }} × {{ product?.name }} · {{ draft.groups.find((g) => g.key === standIn.group)?.name.toLowerCase() }}</b
      >
    </p>
    <p v-if="failure" class="call">{{ failure }}</p>
    <div v-else-if="evaluation" class="sheet">
      <LineForm
        v-model:answers="standIn.line"
        v-model:units="standIn.units"
        :evaluation="evaluation"
        :line="LINE"
        :show-all="false"
        :prefix="first ? 'preview' : 'second'"
        :level="3"
      />
      <EntryForm
        v-if="ofOrder.length"
        v-model="standIn.answers"
        :asked="ofOrder"
        :problems="orderProblems"
        :sections="evaluation.sections"
        :show-all="false"
        :prefix="first ? 'preview-order' : 'second-order'"
        :level="3"
      />
      <PriceSum v-if="isPriced" class="sums" :prices="evaluation.prices" :units="evaluation.units" />
      <p v-if="coded" class="code mono">{{ coded }}</p>
      <p v-if="!isAsked" class="not">
        not asked<template v-if="why">: {{ why }}</template>
      </p>
    </div>
  </div>
</template>

<style scoped>
.cart {
  min-width: 0;
}
.head {
  margin: 0 0 4px;
  line-height: 1.8;
}
.sheet {
  /* The sheet is the shop's, light in both themes; what the browser draws in it too. */
  color-scheme: light;
  background: var(--artefact);
  color: var(--artefact-ink);
  border: 1px solid var(--rule-strong);
  padding: 8px 12px 10px;
  max-height: 180px;
  font-size: var(--size);
  overflow: auto;
}
.code {
  margin: 8px 0 0;
}
.sums {
  margin-top: 10px;
}
.not {
  margin: 0;
}
</style>
