<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import { otherwiseWords } from './otherwise';

/** What is done with an answer that a destination cannot take as it is. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change } = useDraft();

const takes = computed(() => {
  const { longest_line_text: line, longest_order_text: order } = item;
  if (item.characters !== null) return `It takes only ${item.characters}. `;
  if (line === null && order === null) return '';
  return line === order
    ? `It takes ${line} characters an answer. `
    : `It takes ${[line === null ? '' : `${line} characters about a line`, order === null ? '' : `${order} about the order`].filter(Boolean).join(', and ')}. `;
});
const options = computed(() =>
  otherwiseWords.filter(
    (o) =>
      (o.key !== 'note' || item.has_note) && (o.key !== 'shorten' || item.longest_line_text !== null || item.longest_order_text !== null),
  ),
);
</script>

<template>
  <dd>
    {{ takes }}What does not fit
    <Select
      class="words"
      :model-value="item.destination.otherwise ?? 'refuse'"
      :options="options"
      option-label="name"
      option-value="key"
      :aria-label="`What ${item.name} does with what does not fit`"
      @update:model-value="change(item.key, 'otherwise', $event)"
    />
    <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['otherwise']" />
  </dd>
</template>
