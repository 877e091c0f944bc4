<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';

/** When a destination leaves out the prices that its kind shows. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change } = useDraft();

const NEVER = 'never';
const SOME = 'some';
const options = [
  { key: NEVER, name: 'nothing' },
  { key: SOME, name: 'prices, when' },
];
const begun = ref(false);
const condition = computed(() => (item.destination.without_prices_when ?? null) as Condition | null);

function setMode(mode: string): void {
  begun.value = mode === SOME;
  if (mode === NEVER && condition.value) void change(item.key, 'without_prices_when', null);
}

function save(next: Condition | null | undefined): void {
  begun.value = false;
  void change(item.key, 'without_prices_when', next ?? null);
}
</script>

<template>
  <dd>
    <Select
      class="words"
      :model-value="condition || begun ? SOME : NEVER"
      :options="options"
      option-label="name"
      option-value="key"
      :aria-label="`What ${item.name} leaves out`"
      @update:model-value="setMode"
    />
    <ConditionClause
      v-if="condition || begun"
      :model-value="condition"
      :draft="draft"
      level="order"
      :sentence="item.sentences.without_prices_when ?? ''"
      :of-key="item.key"
      @update:model-value="save"
    />
    <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['without_prices_when']" />
  </dd>
</template>
