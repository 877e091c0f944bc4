<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { answersOf } from './choices';
import ClauseNotes from './ClauseNotes.vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftField, Level } from './draft';
import { useDraft } from './draft';
import { explained } from './standIn';
import StockCount from './StockCount.vue';
import WordInput from './WordInput.vue';

/** What answers use up. The manager decides here what leaves the shelf with an answer, and sees how much is there. */
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change, lookFor } = useDraft();

const uses = computed(() => field.field.uses ?? []);
const set = (next: Schemas['ComponentUsage'][]) => void change(field.field.key, 'uses', next);
const setAt = (at: number, part: Partial<Schemas['ComponentUsage']>) => set(uses.value.map((u, i) => (i === at ? { ...u, ...part } : u)));

const choices = computed(() => answersOf(field));
const items = computed(() => [
  { key: '', name: 'stock of its own' },
  ...draft.products.flatMap((p) =>
    p.variants.length ? p.variants.map((v) => ({ key: v.key, name: `${p.name}, ${v.name}` })) : [{ key: p.code, name: p.name }],
  ),
]);
const often: Record<string, string> = {
  unit: field.field.level === 'unit' ? 'for that one' : 'for each piece',
  line: 'once a line',
  order: 'once an order',
};
const pers = computed(() =>
  (field.field.level === 'order' ? ['order'] : ['unit', 'line', 'order']).map((key) => ({ key, name: often[key] })),
);
const counts = (use: Schemas['ComponentUsage']) => (use.choice ? field.pricing?.by_of_choice : field.pricing?.by)?.includes('count');
const itemOf = (use: Schemas['ComponentUsage']) => use.item || (use.choice ? `${field.field.key}/${use.choice}` : field.field.key);
const conditional = ref(-1);

// What a choice uses can lend it its name and its picture: taken over when told to, and told where it differs since.
type Choice = { key: string; label: Record<string, string>; picture?: string; picture_words?: Record<string, string> };
function lentBy(use: Schemas['ComponentUsage']) {
  const choice = ((field.field.settings?.choices ?? []) as Choice[]).find((c) => c.key === use.choice);
  const product = draft.products.find((p) => p.code === use.item || p.variants.some((v) => v.key === use.item));
  if (!choice || !product) return undefined;
  const name = items.value.find((i) => i.key === use.item)!.name;
  return {
    name: choice.label.en === name ? undefined : name,
    picture: !product.picture || choice.picture === product.picture ? undefined : product.picture,
    take: (part: Partial<Choice>) =>
      void change(
        field.field.key,
        'settings.choices',
        (field.field.settings!.choices as Choice[]).map((c) => (c.key === choice.key ? { ...c, ...part } : c)),
      ),
    named: (label: string) => ({ label: { ...choice.label, en: label } }),
    pictured: () => ({ picture: product.picture, picture_words: { ...choice.picture_words, en: product.picture_words } }),
  };
}
const lent = computed(() => uses.value.map(lentBy));

function setQuantity(at: number, typed: string): void {
  const quantity = Math.trunc(Number(typed));
  if (quantity >= 1) setAt(at, { quantity });
}

function add(): void {
  const choice = choices.value[1]?.key ?? null;
  const next = choices.value.slice(1).find((c) => !uses.value.some((u) => u.choice === c.key))?.key ?? choice;
  set([...uses.value, { item: '', choice: next, quantity: 1, by: 'answer', per: field.field.level === 'order' ? 'order' : 'unit' }]);
}
</script>

<template>
  <dt>Uses up</dt>
  <dd>
    <template v-if="!uses.length">nothing</template>
    <ol v-else class="ruled">
      <li v-for="(use, i) in uses" :key="i">
        <div>
          <Select
            v-if="choices.length > 1"
            class="words"
            :model-value="use.choice ?? null"
            :options="choices"
            option-label="name"
            option-value="key"
            placeholder="an answer"
            :aria-label="`What uses component ${i + 1}`"
            @update:model-value="setAt(i, { choice: $event, by: 'answer' })"
          />
          <template v-else>an answer</template>
          uses
          <WordInput :value="String(use.quantity ?? 1)" :label="`How many of component ${i + 1}`" numeric @save="setQuantity(i, $event)" />
          of
          <Select
            class="words"
            :model-value="use.item ?? ''"
            :options="items"
            option-label="name"
            option-value="key"
            filter
            @filter="lookFor($event.value)"
            :aria-label="`Component ${i + 1}`"
            @update:model-value="setAt(i, { item: $event })"
          />
          {{ ' ' }}
          <Select
            class="words"
            :model-value="use.per"
            :options="pers"
            option-label="name"
            option-value="key"
            :aria-label="`How often component ${i + 1} is used`"
            @update:model-value="setAt(i, { per: $event })"
          />
          <template v-if="counts(use)"
            >,
            <button class="act" @click="setAt(i, { by: use.by === 'count' ? 'answer' : 'count' })">
              {{ use.by === 'count' ? 'times the number answered' : 'whatever the number' }}
            </button></template
          >
          <div><StockCount :item="itemOf(use)" :draft="draft" /></div>
          <div v-if="use.item" class="small">
            <label
              ><input type="checkbox" :checked="use.takes_weight" @change="setAt(i, { takes_weight: !use.takes_weight })" /> its weight
              counts</label
            >
            <label
              ><input type="checkbox" :checked="use.takes_price" @change="setAt(i, { takes_price: !use.takes_price })" /> its price is
              charged</label
            >
            <template v-if="lent[i]">
              <button v-if="lent[i]!.name" class="act" @click="lent[i]!.take(lent[i]!.named(lent[i]!.name!))">
                call the choice “{{ lent[i]!.name }}”</button
              >{{ ' ' }}
              <button v-if="lent[i]!.picture" class="act" @click="lent[i]!.take(lent[i]!.pictured())">show its picture</button>
            </template>
          </div>
          <div v-if="use.when || conditional === i">
            only when
            <ConditionClause
              :model-value="use.when as Condition | null"
              :draft="draft"
              :level="field.field.level as Level"
              :sentence="field.sentences[`uses.${i}`]"
              :explained="explained?.[`uses.${i}`]"
              :of-key="field.field.key"
              @update:model-value="((conditional = -1), setAt(i, { when: ($event ?? null) as never }))"
            />
          </div>
          <button v-else class="act small" @click="conditional = i">under a condition</button>
        </div>
        <button
          class="act out"
          :aria-label="`Take away component ${i + 1}`"
          title="take away"
          @click="set(uses.filter((_, at) => at !== i))"
        >
          ×
        </button>
      </li>
    </ol>
    <div class="small"><button class="act" @click="add">add a component</button></div>
    <ClauseNotes :of="field.field.key" :problems="draft.problems" :settings="['uses']" />
  </dd>
</template>

<style scoped>
label {
  margin-right: 14px;
}
</style>
