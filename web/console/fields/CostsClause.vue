<script setup lang="ts">
import { computed, nextTick, useTemplateRef } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { choicesOf } from './choices';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftField } from './draft';
import { useDraft } from './draft';
import PriceSentence from './PriceSentence.vue';
import { explained } from './standIn';
import WordInput from './WordInput.vue';
import PickSeveral from '../parts/PickSeveral.vue';

/** What answers cost. The manager decides here what an answer adds and to whom; the preview beside it says what its cart comes to. */
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change } = useDraft();

const prices = computed(() => field.field.prices ?? []);
const set = (next: Schemas['Price'][]) => void change(field.field.key, 'prices', next);
const unpriced = computed(() => choicesOf(field).find((c) => !prices.value.some((p) => p.choice === c.key)));
const picks = computed(() => ['several_of', 'how_many_of_each'].includes(field.field.type) && prices.value.some((p) => p.choice));

const list = useTemplateRef<HTMLElement>('list');

async function add(): Promise<void> {
  // The next choice that has no price yet; of a field without a list the answer as a whole.
  const choice = unpriced.value?.key ?? null;
  const kind = prices.value.at(-1)?.kind ?? field.pricing!.kinds.find((k) => k !== 'for_the_goods')!;
  const by = (choice ? field.pricing!.by_of_choice : field.pricing!.by).at(-1) === 'count' && choice ? 'count' : 'answer';
  const at = document.activeElement;
  await change(field.field.key, 'prices', [...prices.value, { kind, by, choice, tariff: { minor: 0 } }]);
  await nextTick();
  // Its amount is typed next, unless somebody has gone on meanwhile.
  if (document.activeElement !== at && document.activeElement !== document.body) return;
  const amount = list.value?.lastElementChild?.querySelector('input');
  amount?.focus();
  amount?.select();
}

function setPicks(typed: string): void {
  const included = Math.trunc(Number(typed));
  if (included >= 0) void change(field.field.key, 'included_picks', included);
}

const shownAt = computed(() => [
  { key: 'form', name: 'the form' },
  ...draft.destinations.filter((d) => d.shows_prices).map((d) => ({ key: d.key, name: d.phrase })),
]);
const within = computed(() => field.field.price_within ?? []);

async function setWithin(next: string[]): Promise<void> {
  for (const { key } of shownAt.value) {
    if (next.includes(key) !== within.value.includes(key)) await change(field.field.key, `price_within.${key}`, next.includes(key));
  }
}
</script>

<template>
  <dt>Costs</dt>
  <dd>
    <template v-if="!prices.length">nothing</template>
    <ol v-else ref="list" class="ruled">
      <PriceSentence
        v-for="(price, i) in prices"
        :key="i"
        :model-value="price"
        :field="field"
        :draft="draft"
        :ordinal="i + 1"
        :sentence="field.sentences[`prices.${i}`]"
        :explained="explained?.[`prices.${i}`]"
        @update:model-value="set(prices.map((p, at) => (at === i ? $event : p)))"
        @remove="set(prices.filter((_, at) => at !== i))"
      />
    </ol>
    <div v-if="picks">
      <WordInput :value="String(field.field.included_picks ?? 0)" label="How many picks are included" numeric @save="setPicks" /> of the
      picks, the cheapest, are included
    </div>
    <div v-if="prices.length && field.field.level !== 'order'">
      shown in a row of its own everywhere but on
      <PickSeveral
        :value="within"
        :options="shownAt"
        option-value="key"
        placeholder="no page"
        aria-label="Where it is shown within the price of the goods"
        @save="setWithin"
      /><template v-if="within.length">, where it is within the price of the goods</template>
    </div>
    <div class="small"><button class="act" @click="add">add a price</button></div>
    <ClauseNotes :of="field.field.key" :problems="draft.problems" :settings="['prices', 'included_picks', 'price_within']" />
  </dd>
</template>
