<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, Level } from './draft';
import FactSelect from './FactSelect.vue';
import WordInput from './WordInput.vue';
import FormulaEditor from './FormulaEditor.vue';
import { fresh, lengths, shapeOf, shapes, summaries, type Term } from './formula';

/** What a row works with: an answer, a number, a length, something summed, or rows of their own. */
const { draft, level, ofKey, label } = defineProps<{ draft: Draft; level: Level; ofKey: string; label: string }>();
const term = defineModel<Term>({ required: true });

const shape = computed(() => shapeOf(term.value));
const offered = computed(() => shapes.filter((s) => s.key !== 'summary' || level !== 'unit'));
const overs = [
  { key: 'line', name: 'the lines' },
  { key: 'unit', name: 'the units' },
];
const over = computed<Level>(() => (term.value.over as Level | undefined) ?? level);
const set = (part: Partial<Term>) => (term.value = { ...term.value, ...part });

function setNumber(typed: string): void {
  const number = Number(typed.replace(',', '.'));
  if (typed.trim() && Number.isFinite(number)) set({ value: number });
}

function setElse(typed: string): void {
  const number = Number(typed.replace(',', '.'));
  set({ else: !typed.trim() ? null : Number.isFinite(number) ? number : typed });
}
</script>

<template>
  <Select
    class="words"
    :model-value="shape"
    :options="offered"
    option-label="name"
    option-value="key"
    :aria-label="`Shape of ${label}`"
    @update:model-value="term = fresh($event, level)"
  />
  {{ ' ' }}
  <WordInput v-if="shape === 'number'" :value="String(term.value ?? '')" :label="`Number of ${label}`" numeric @save="setNumber" />
  <WordInput
    v-else-if="shape === 'text'"
    :value="String(term.value ?? '')"
    :label="`Words of ${label}`"
    placeholder="words"
    @save="set({ value: $event })"
  />
  <FactSelect
    v-else-if="shape === 'fact'"
    :model-value="term.fact"
    :draft="draft"
    :level="level"
    :of-key="ofKey"
    :label="`Fact of ${label}`"
    @update:model-value="set({ fact: $event })"
  />
  <template v-else-if="shape === 'length'">
    <FactSelect
      :model-value="term.fact"
      :draft="draft"
      :level="level"
      :of-key="ofKey"
      :label="`Fact of ${label}`"
      @update:model-value="set({ fact: $event })"
    />
    in
    <Select
      class="words"
      :model-value="term.length_by"
      :options="lengths"
      option-label="name"
      option-value="key"
      :aria-label="`What is counted of ${label}`"
      @update:model-value="set({ length_by: $event })"
    />
  </template>
  <template v-else-if="shape === 'days'">
    <FactSelect
      :model-value="term.fact"
      :draft="draft"
      :level="level"
      :kinds="['day']"
      :of-key="ofKey"
      :label="`First day of ${label}`"
      @update:model-value="set({ fact: $event })"
    />
    to
    <FactSelect
      :model-value="term.days_to"
      :draft="draft"
      :level="level"
      :kinds="['day']"
      :of-key="ofKey"
      :label="`Last day of ${label}`"
      @update:model-value="set({ days_to: $event })"
    />
  </template>
  <template v-else-if="shape === 'summary'">
    <Select
      class="words"
      :model-value="term.summary"
      :options="summaries"
      option-label="name"
      option-value="key"
      :aria-label="`How ${label} is summed`"
      @update:model-value="set({ summary: $event })"
    />
    <FactSelect
      v-if="term.summary !== 'count'"
      :model-value="term.fact"
      :draft="draft"
      :level="over"
      :kinds="['number']"
      :of-key="ofKey"
      :label="`Fact of ${label}`"
      @update:model-value="set({ fact: $event })"
    />
    of
    <Select
      class="words"
      :model-value="term.over"
      :options="level === 'order' ? overs : overs.slice(1)"
      option-label="name"
      option-value="key"
      :aria-label="`Over what ${label} is summed`"
      @update:model-value="set({ over: $event })"
    />
    of which
    <ConditionClause
      :model-value="term.where as Condition | null"
      :draft="draft"
      :level="over"
      :of-key="ofKey"
      @update:model-value="set({ where: $event ?? null })"
    />
  </template>
  <FormulaEditor v-else :rows="term.rows ?? []" :draft="draft" :level="level" :of-key="ofKey" inner @save="set({ rows: $event })" />
  <template v-if="['fact', 'length', 'summary'].includes(shape)"
    >, else
    <WordInput
      :value="term.else === null || term.else === undefined ? '' : String(term.else)"
      :label="`What stands in for ${label}`"
      placeholder="nothing"
      @save="setElse"
  /></template>
</template>
