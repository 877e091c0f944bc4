<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { useDraft, type Draft, type Level } from './draft';
import { isInReach, otherIn, relationIn, testOf, type Explained, type Fact, type Other, type Test, type Value } from './condition';
import FactSelect from './FactSelect.vue';
import ValueInput from './ValueInput.vue';

/** One test of a condition: a ruled row of ordinary controls, with what it saw in the preview's cart. */
const { draft, level, explained } = defineProps<{ draft: Draft; level: Level; explained?: Explained }>();
const test = defineModel<Test>({ required: true });
const emit = defineEmits<{ remove: [] }>();

const groups = computed(() => {
  const reach = draft.facts.filter((f) => isInReach(f, level));
  const named = (f: Fact) => ({ key: f.key, name: plain(f.name) });
  return [
    { name: 'The product', items: reach.filter((f) => !f.key.startsWith('answer.') && f.level === 'line').map(named) },
    { name: 'The shopper and the cart', items: reach.filter((f) => !f.key.startsWith('answer.') && f.level === 'order').map(named) },
    { name: 'Answers', items: reach.filter((f) => f.key.startsWith('answer.')).map(named) },
  ].filter((g) => g.items.length);
});
const plain = (name: string) => name.replace(/^the /, '').replaceAll(/[“”]/g, '');
const fact = computed(() => draft.facts.find((f) => f.key === test.value.of));
const compared = computed(() => relationIn(test.value));
const relations = computed(() => draft.relations[fact.value?.kind ?? 'other'] ?? []);
const relation = computed(() => relations.value.find((r) => r.key === compared.value[0]));

// Another fact keeps the comparison if it takes it, and never the value: that was one of another thing.
function setFact(key: string): void {
  const kind = draft.facts.find((f) => f.key === key)?.kind ?? 'other';
  const offered = draft.relations[kind] ?? [];
  setTo(key, offered.find((r) => r.key === compared.value[0]) ?? offered[0]);
}

function setRelation(key: string): void {
  const next = relations.value.find((r) => r.key === key);
  const keeps = next?.takes_value && next.takes_list === relation.value?.takes_list;
  setTo(test.value.of, next, keeps ? compared.value[1] : null);
}

const setValue = (value: Value | Other | null | undefined) => setTo(test.value.of, relation.value, value);

const { lookFor } = useDraft();
const isOfProducts = computed(() => test.value.of === 'product' || test.value.of === 'variant');

// The other side is a value, or another answer that it can be held against.
const other = computed(() => otherIn(test.value));
const choosing = ref(false);
const isAgainst = computed(() => choosing.value || !!other.value);
const kindsAgainst = computed(() =>
  fact.value?.kind === 'list' || (fact.value?.kind === 'any_of' && !relation.value?.takes_list)
    ? ['text', 'choice']
    : relation.value?.takes_list
      ? ['list']
      : [fact.value?.kind ?? 'text'],
);

function setAgainst(on: boolean): void {
  choosing.value = on;
  if (!on && other.value) setValue(null);
}

// What compares with nothing says so by true.
function setTo(of: string, next: Schemas['RelationView'] | undefined, value?: Value | Other | null): void {
  test.value = testOf(of, next?.key ?? 'was_given', next?.takes_value ? (value ?? null) : true);
}
</script>

<template>
  <div class="test">
    <div class="what">
      <Select
        class="words"
        :model-value="test.of"
        :options="groups"
        option-label="name"
        option-value="key"
        option-group-label="name"
        option-group-children="items"
        filter
        placeholder="choose"
        aria-label="What is tested"
        @update:model-value="setFact"
      >
        <template #value>{{ fact ? plain(fact.name) : test.of }}</template>
      </Select>
      <Select
        class="words"
        :model-value="compared[0]"
        :options="relations"
        option-label="words"
        option-value="key"
        aria-label="How it is compared"
        @update:model-value="setRelation"
      />
      <FactSelect
        v-if="relation?.takes_value && isAgainst"
        :model-value="other"
        :draft="draft"
        :level="level"
        :kinds="kindsAgainst"
        :of-key="test.of.replace(/^answer\./, '')"
        label="Which answer it is compared with"
        @update:model-value="((choosing = false), $event && setValue({ of: $event }))"
      />
      <ValueInput
        v-else-if="relation?.takes_value"
        :model-value="compared[1] ?? undefined"
        :kind="fact?.kind ?? 'text'"
        :options="fact?.options"
        :list="relation.takes_list"
        :unit="fact?.unit"
        label="What it is compared with"
        @look="(word) => isOfProducts && lookFor(word)"
        @update:model-value="setValue"
      />
      {{ ' ' }}
      <button v-if="relation?.takes_value" class="act small" @click="setAgainst(!isAgainst)">
        {{ isAgainst ? 'a value instead' : 'or another answer' }}
      </button>
    </div>
    <div class="saw">
      <template v-if="explained"
        ><b :class="{ holds: explained.holds }">{{ explained.holds ? 'holds' : 'does not hold' }}</b
        ><br />{{ explained.saw }}</template
      >
    </div>
    <button class="act out" :aria-label="`Take away: ${fact?.name ?? test.of}`" title="take away" @click="emit('remove')">×</button>
  </div>
</template>

<style scoped>
.test {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 108px 24px;
  border-bottom: 1px solid var(--rule);
  padding: 3px 0;
  align-items: center;
}
/* Where nothing is explained, nothing stands empty. */
.test:has(.saw:empty) {
  grid-template-columns: minmax(0, 1fr) 24px;
}
.saw:empty {
  display: none;
}
.what .words {
  max-width: 152px;
}
.saw {
  border-left: 1px solid var(--rule);
  padding-left: 9px;
  font-size: var(--size-small);
  line-height: 1.3;
  color: var(--ink-soft);
  min-height: 33px;
}
.saw b {
  font-weight: 400;
}
.saw b.holds {
  font-weight: 650;
  color: var(--ink);
}
</style>
