<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import AmountInput from './AmountInput.vue';
import { answersOf } from './choices';
import type { Condition, Explained } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftField, Level } from './draft';
import TariffWords from './TariffWords.vue';
import WordInput from './WordInput.vue';

/** One price, as a sentence whose words are the controls. */
const { field, draft, sentence, explained, ordinal } = defineProps<{
  field: DraftField;
  draft: Draft;
  sentence?: string;
  explained?: Explained;
  ordinal: number;
}>();
const price = defineModel<Schemas['Price']>({ required: true });
const emit = defineEmits<{ remove: [] }>();

const kindWords: Record<string, string> = {
  for_the_goods: 'as the price of one',
  per_unit: field.field.level === 'unit' ? 'on top of that one' : 'on top of each one',
  percent: 'of the price, on top',
  once_per_line: 'on top, once a line',
  once_per_order: 'on top, once an order',
};
const byWords: Record<string, string> = {
  answer: 'in all',
  letter: 'a letter',
  character: 'a character',
  word: 'a word',
  count: 'for each',
  amount: 'as answered',
};
const named = (words: Record<string, string>, keys: readonly string[]) => keys.map((key) => ({ key, name: words[key] ?? key }));

const untaxed = named({ zero: 'taxed at nothing', exempt: 'exempt from tax', outside: 'outside the tax' }, ['zero', 'exempt', 'outside']);

const set = (part: Partial<Schemas['Price']>) => (price.value = { ...price.value, ...part });
const choices = computed(() => answersOf(field));
const kinds = computed(() => named(kindWords, field.pricing?.kinds ?? []));
const by = computed(() =>
  named(
    byWords,
    price.value.kind === 'percent' ? ['answer'] : price.value.choice ? (field.pricing?.by_of_choice ?? []) : (field.pricing?.by ?? []),
  ),
);
const isCounted = computed(() => !['answer', 'amount'].includes(price.value.by!));
const called = computed(() => `price ${ordinal}`);

// A measure that the kind or the choice does not take goes back to the whole answer.
function setKind(kind: Schemas['Price']['kind']): void {
  set(
    kind === 'percent'
      ? { kind, by: 'answer', included: 0, words_are_runs: false, tariff: { ...price.value.tariff, bands: [] } }
      : { kind },
  );
}

function setChoice(choice: string | null): void {
  const allowed = choice ? field.pricing?.by_of_choice : field.pricing?.by;
  set({ choice, by: allowed?.includes(price.value.by!) ? price.value.by! : 'answer', included: 0, words_are_runs: false });
}

function setBy(measure: Schemas['AnswerMeasure']): void {
  const counted = !['answer', 'amount'].includes(measure);
  set({ by: measure, words_are_runs: false, ...(counted ? {} : { included: 0, tariff: { ...price.value.tariff, bands: [] } }) });
}

function setIncluded(typed: string): void {
  const included = Math.trunc(Number(typed));
  if (included >= 0) set({ included });
}

const others = computed(() => price.value.for ?? []);
const setOther = (at: number, part: Partial<Schemas['PriceOverride']>) =>
  set({ for: others.value.map((o, i) => (i === at ? { ...o, ...part } : o)) });
const variants = computed(() => [
  { key: null, name: 'any variant' },
  ...draft.products
    .filter((p) => field.asks.includes(p.code))
    .flatMap((p) => p.variants.map((v) => ({ key: v.key, name: `${p.name}, ${v.name}` }))),
]);
const groups = computed(() => [{ key: null, name: 'any group' }, ...draft.groups.map((g) => ({ key: g.key, name: g.name.toLowerCase() }))]);
const freeGroup = computed(() => draft.groups.find((g) => !others.value.some((o) => o.group === g.key)) ?? draft.groups[0]);

const conditional = ref(false);
const naming = ref(false);
</script>

<template>
  <li>
    <div class="what">
      <Select
        v-if="choices.length > 1"
        class="words"
        :model-value="price.choice ?? null"
        :options="choices"
        option-label="name"
        option-value="key"
        placeholder="an answer"
        :aria-label="`What ${called} is for`"
        @update:model-value="setChoice"
      />
      <template v-else>an answer</template>
      costs
      <TariffWords :model-value="price.tariff ?? {}" :price="price" :draft="draft" whom="" @update:model-value="set({ tariff: $event })">
        <Select
          v-if="by.length > 1"
          class="words"
          :model-value="price.by"
          :options="by"
          option-label="name"
          option-value="key"
          :aria-label="`What ${called} is taken times`"
          @update:model-value="setBy"
        />
        {{ ' ' }}
        <Select
          class="words"
          :model-value="price.kind"
          :options="kinds"
          option-label="name"
          option-value="key"
          :aria-label="`What ${called} does`"
          @update:model-value="setKind"
        /><template v-if="isCounted"
          >,
          <WordInput :value="String(price.included ?? 0)" :label="`How many are included in ${called}`" numeric @save="setIncluded" />
          included</template
        ><template v-if="price.by === 'word'"
          >; a date or telephone number is
          <button class="act" @click="set({ words_are_runs: !price.words_are_runs })">
            {{ price.words_are_runs ? 'as many words as it has parts' : 'one word' }}
          </button></template
        >
        <template v-if="isCounted && price.tariff?.bands?.length" #bands
          >,
          <button class="act" @click="set({ band_for_all: !price.band_for_all })">
            {{ price.band_for_all ? 'all at the band it comes to' : 'each at the band it is in' }}
          </button></template
        >
      </TariffWords>
      <div v-for="(other, i) in others" :key="i">
        for
        <Select
          class="words"
          :model-value="other.group ?? null"
          :options="groups"
          option-label="name"
          option-value="key"
          placeholder="any group"
          :aria-label="`Shopper group of another amount of ${called}`"
          @update:model-value="setOther(i, { group: $event })"
        />
        <template v-if="variants.length > 1">
          and
          <Select
            class="words"
            :model-value="other.variant ?? null"
            :options="variants"
            option-label="name"
            option-value="key"
            placeholder="any variant"
            :aria-label="`Variant of another amount of ${called}`"
            @update:model-value="setOther(i, { variant: $event })"
        /></template>
        <TariffWords
          :model-value="other.tariff"
          :price="price"
          :draft="draft"
          :whom="` for another, ${i + 1}`"
          @update:model-value="setOther(i, { tariff: $event })"
        >
          <template #further
            ><button
              class="act"
              :aria-label="`Take away another amount of ${called}`"
              @click="set({ for: others.filter((_, at) => at !== i) })"
            >
              take away
            </button></template
          >
        </TariffWords>
      </div>
      <div v-if="typeof price.tax_ppm === 'number'">
        taxed at
        <AmountInput
          share
          :value="price.tax_ppm"
          :money="draft.money"
          :label="`Tax rate of ${called}`"
          @save="set({ tax_ppm: $event, untaxed_as: null })"
        />
        <template v-if="price.tax_ppm === 0"
          >, since it is
          <Select
            :model-value="price.untaxed_as ?? 'zero'"
            :options="untaxed"
            option-label="name"
            option-value="key"
            :aria-label="`Why ${called} is not taxed`"
            @update:model-value="set({ untaxed_as: $event === 'zero' ? null : $event })" /></template
        >{{ ' ' }}
        <button class="act small" @click="set({ tax_ppm: null, untaxed_as: null })">as the goods are</button>
      </div>
      <div v-if="price.label?.en || naming">
        called “<WordInput
          :value="price.label?.en ?? ''"
          :label="`What ${called} is called`"
          placeholder="as the question"
          @save="set({ label: $event ? { en: $event } : {} })"
        />”
      </div>
      <div v-if="price.when || conditional">
        only when
        <ConditionClause
          :model-value="price.when as Condition | null"
          :draft="draft"
          :level="field.field.level as Level"
          :sentence="sentence"
          :explained="explained"
          :of-key="field.field.key"
          @update:model-value="((conditional = false), set({ when: ($event ?? null) as never }))"
        />
      </div>
      <div class="offers small">
        add:
        <button
          v-if="freeGroup && price.by !== 'amount'"
          class="act"
          @click="set({ for: [...others, { group: freeGroup.key, variant: null, tariff: { ...price.tariff } }] })"
        >
          another amount for some
        </button>
        <button v-if="!price.when && !conditional" class="act" @click="conditional = true">a condition</button>
        <button v-if="typeof price.tax_ppm !== 'number'" class="act" @click="set({ tax_ppm: 0 })">a tax rate of its own</button>
        <button v-if="!price.label?.en && !naming" class="act" @click="naming = true">a name for its row</button>
      </div>
    </div>
    <button class="act out" :aria-label="`Take away ${called}`" title="take away" @click="emit('remove')">×</button>
  </li>
</template>
