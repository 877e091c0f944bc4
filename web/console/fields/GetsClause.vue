<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import LeavingClause from './LeavingClause.vue';

/** Which orders, lines or units go to a destination. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change } = useDraft();

const begun = ref(false);
const condition = computed(() => (item.destination.gets ?? null) as Condition | null);
const picked = { order: 'order', line: 'line', unit: 'single one' };
const ALL = 'all';
const SOME = 'some';
const options = computed(() => [
  { key: ALL, name: item.picks === 'order' ? 'every order' : `every ${picked[item.picks]}` },
  { key: SOME, name: `${picked[item.picks]}s of which` },
]);
const together = computed(() =>
  item.goes_by === item.picks ? (item.picks === 'order' ? '' : ', each by itself') : ', those of one order together',
);

function setMode(mode: string): void {
  begun.value = mode === SOME;
  if (mode === ALL && condition.value) void change(item.key, 'gets', null);
}

function save(next: Condition | null | undefined): void {
  begun.value = false;
  void change(item.key, 'gets', next ?? null);
}
</script>

<template>
  <dd>
    <Select
      class="words"
      :model-value="condition || begun ? SOME : ALL"
      :options="options"
      option-label="name"
      option-value="key"
      :aria-label="`What ${item.name} gets`"
      @update:model-value="setMode"
    />
    <template v-if="!condition && !begun">{{ together }}</template>
    <ConditionClause
      v-if="condition || begun"
      :model-value="condition"
      :draft="draft"
      :level="item.picks"
      :sentence="(item.sentences.gets ?? '') + together"
      :of-key="item.key"
      @update:model-value="save"
    />
    <LeavingClause v-if="item.takes_item_codes" :item="item" :draft="draft" />
    <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['gets']" />
  </dd>
</template>
