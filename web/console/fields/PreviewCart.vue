<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import EntryForm from '../../entry/EntryForm.vue';
import LineForm from '../../entry/LineForm.vue';
import PriceSum from '../../entry/PriceSum.vue';
import { unfold, type Evaluated } from '../../entry/answers';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { speak, spoken } from '../../shared/wording';
import { fieldsIn, type Condition } from './condition';
import { useDraft, type Draft } from './draft';
import { nameOf, stepOf } from './groups';
import { explained, language, shownOf, type StandIn, type StandInLine } from './standIn';
import SpokenIn from './SpokenIn.vue';
import WordInput from './WordInput.vue';

/** What one stand-in cart is asked of what is at hand, from the same rules that the shop asks by; and where it is not asked, why. */
const {
  draft,
  of,
  first,
  open,
  step: whole,
} = defineProps<{
  draft: Draft;
  of: string;
  first: boolean;
  open: boolean;
  /** The step that is shown as a whole; none for what is at hand, or its step, as is chosen. */
  step?: string;
}>();
const standIn = defineModel<StandIn>({ required: true });

const shown = ref<Omit<Schemas['PreviewView'], 'evaluation'> & { evaluation: Evaluated }>();
const failure = ref('');

const field = computed(() => draft.fields.find((f) => f.field.key === of)?.field);
const section = computed(() => draft.sections.find((s) => s.section.key === (field.value?.section ?? of))?.section);
const productOf = (line: StandInLine) => draft.products.find((p) => p.code === line.product);
const several = computed(() => standIn.value.lines.length > 1);
const step = computed(() => whole ?? section.value?.step ?? field.value?.step);
const isWhole = computed(() => !!whole || shownOf.value === 'step');

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

const isShown = (x: { field: string | null; step: string }) =>
  !!x.field && (isWhole.value ? x.step === step.value : keys.value.has(x.field));
// What is not asked is a field, or the opening question of a section.
const placeOf = (key: string): { step?: string; name?: string } => {
  const one = draft.fields.find((f) => f.field.key === key);
  const around = draft.sections.find((s) => s.section.key === key)?.section;
  return one ? { step: stepOf(draft, one), name: nameOf(one) } : { step: around?.step, name: around?.opening?.en };
};
// Of a whole step everything that is not asked says why: once for all that it is alike for.
const left = computed(() => {
  const alike = new Map<string, Set<string>>();
  for (const n of shown.value?.not_asked ?? []) {
    // Of the page of one product only what it could ask.
    const place = placeOf(n.field);
    if (place.step !== step.value || (whole && !n.by_condition)) continue;
    const line = several.value && standIn.value.lines.find((l) => l.id === n.line_id);
    const why = line ? `${productOf(line)?.name}: ${n.why}` : n.why;
    alike.set(why, (alike.get(why) ?? new Set()).add(place.name ?? n.field));
  }
  return [...alike].map(([why, names]) => ({ why, names: [...names].join(', ') }));
});
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
// What cannot be published as it is has no reason of its own.
const isWrong = computed(() => draft.problems.some((p) => p.field === of));
const isAsked = computed(() => evaluation.value?.asked.some((a) => a.field === of || a.section === of));

const evaluate = latest(
  async () => {
    const { group, country, answers } = standIn.value;
    const lines = standIn.value.lines.map(({ id, product, variant, quantity, answers: own, units }) => ({
      id,
      product_code: product,
      variant_code: variant ?? null,
      quantity,
      answers: own,
      units: units.slice(0, quantity),
    }));
    const preview = await ask(
      api.POST('/api/console/v1/draft/preview', {
        params: { query: { explain: of } },
        body: { language: language.value, group, country, lines, answers },
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

const speakIt = latest(
  (tag: string) => ask(api.GET('/api/console/v1/draft/sentences', { params: { query: { language: tag } } })),
  (sentences) => speak(language.value, sentences),
  (error) => (failure.value = sentenceOf(error)),
);

const { lookFor } = useDraft();
function setLine(id: string, part: Partial<StandInLine>): void {
  standIn.value = { ...standIn.value, lines: standIn.value.lines.map((l) => (l.id === id ? { ...l, ...part } : l)) };
}

function setProduct(id: string, code: string): void {
  setLine(id, { product: code, variant: draft.products.find((p) => p.code === code)?.variants[0]?.key });
  lookFor('', [code]);
}

function setQuantity(id: string, text: string): void {
  const quantity = Math.trunc(Number(text));
  if (quantity >= 1 && quantity <= 60) setLine(id, { quantity });
}

function addLine(): void {
  const used = standIn.value.lines.map((l) => l.product);
  const { code, variants } = draft.products.find((p) => !used.includes(p.code)) ?? draft.products[0]!;
  const id = `preview${Math.max(1, ...standIn.value.lines.map((l) => Number(l.id.replace('preview', '')) || 1)) + 1}`;
  const line = { id, product: code, variant: variants[0]?.key, quantity: 1, answers: {}, units: [] };
  standIn.value = { ...standIn.value, lines: [...standIn.value.lines, line] };
}

const takeOut = (id: string) => (standIn.value = { ...standIn.value, lines: standIn.value.lines.filter((l) => l.id !== id) });
const asksAnything = (line: StandInLine) => evaluation.value?.asked.some((a) => a.line_id === line.id);

// Of two carts the first brings what both say.
if (first) watch([() => draft, language], () => void speakIt.now(language.value), { immediate: true });
watch([() => draft, () => of, standIn, language], () => evaluate.soon(undefined), { immediate: true, deep: true });
</script>

<template>
  <div class="cart">
    <p class="small head">
      <template v-if="open">
        <span v-for="(line, i) in standIn.lines" :key="line.id" class="line">
          <WordInput
            :value="String(line.quantity)"
            :label="several ? `Quantity of line ${i + 1}` : 'Quantity in the stand-in cart'"
            numeric
            @save="setQuantity(line.id, $event)"
          />
          ×
          <Select
            class="words"
            :model-value="line.product"
            :options="draft.products"
            option-label="name"
            option-value="code"
            :filter="draft.product_count > 12"
            @filter="lookFor($event.value)"
            :aria-label="several ? `Product of line ${i + 1}` : 'Product in the stand-in cart'"
            @update:model-value="setProduct(line.id, $event)"
          />
          <Select
            v-if="productOf(line)?.variants.length"
            class="words"
            :model-value="line.variant"
            :options="productOf(line)!.variants"
            option-label="name"
            option-value="key"
            :aria-label="several ? `Variant of line ${i + 1}` : 'Variant in the stand-in cart'"
            @update:model-value="setLine(line.id, { variant: $event })"
          />
          <button v-if="several" class="act" :aria-label="`Take line ${i + 1} out`" title="take out" @click="takeOut(line.id)">×</button>
        </span>
        <button class="act" @click="addLine">add a line</button>
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
        /><template v-if="spoken().languages.length > 1">, in <SpokenIn label="Language of the stand-in cart" /></template>
      </template>
      <b v-else
        >{{ standIn.lines.map((l) => `${l.quantity} × ${productOf(l)?.name}`).join(', ') }} ·
        {{ draft.groups.find((g) => g.key === standIn.group)?.name.toLowerCase() }}</b
      >
    </p>
    <p v-if="failure" class="call">{{ failure }}</p>
    <div v-else-if="evaluation" class="sheet" :class="{ whole: isWhole }">
      <template v-for="line in standIn.lines" :key="line.id">
        <p v-if="several && asksAnything(line)" class="of">{{ line.quantity }} × {{ productOf(line)?.name }}</p>
        <LineForm
          v-model:answers="line.answers"
          v-model:units="line.units"
          :evaluation="evaluation"
          :line="line.id"
          :show-all="false"
          :prefix="`${first ? 'first' : 'second'}-${line.id}`"
          :level="3"
        />
      </template>
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
      <p v-if="isWhole && !evaluation.asked.length && !left.length" class="not">nothing is asked</p>
      <ul v-if="isWhole && left.length" class="not" aria-label="Not asked">
        <li v-for="one in left" :key="one.why">{{ one.names }}: {{ one.why }}</li>
      </ul>
      <p v-if="!isAsked && !isWhole" class="not">
        not asked<template v-if="why || isWrong">: {{ why || 'what is wrong with it comes first' }}</template>
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
.sheet.whole {
  max-height: 44vh;
}
.code {
  margin: 8px 0 0;
}
.sums {
  margin-top: 10px;
}
.line {
  display: block;
}
.of {
  margin: 10px 0 4px;
  font-weight: 650;
}
.not {
  margin: 0;
}
ul.not {
  list-style: none;
  padding: 6px 0 0;
  font-size: var(--size-small);
}
ul.not li::before {
  content: 'not asked · ';
}
</style>
