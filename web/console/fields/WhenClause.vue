<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import { nameOf } from './groups';

/** From when on a destination may have an order, and whether it gets it again after a correction. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change } = useDraft();

const moments = computed(() => [
  { key: 'placed', name: 'when the order is placed' },
  { key: 'paid', name: 'when it is paid' },
  { key: 'approved', name: item.goes_by === 'order' ? 'when its lines are approved' : 'when the line is approved' },
  { key: 'prepared', name: item.goes_by === 'order' ? 'when its lines are prepared' : 'when the line is prepared' },
  { key: 'day', name: 'on the day of' },
]);
const rank = { order: 0, line: 1, unit: 2 };
const days = computed(() =>
  draft.fields
    .filter((f) => f.holds_day && !f.field.retired && rank[f.field.level ?? 'order'] <= rank[item.goes_by])
    .map((f) => ({ key: f.field.key, name: `“${nameOf(f)}”` })),
);
const again = [
  { key: false, name: 'again after every correction' },
  { key: true, name: 'only once, whatever is corrected' },
];
</script>

<template>
  <dd>
    <Select
      class="words"
      :model-value="item.destination.release ?? 'placed'"
      :options="moments"
      option-label="name"
      option-value="key"
      :aria-label="`When ${item.name} gets it`"
      @update:model-value="change(item.key, 'release', $event)"
    />
    <template v-if="item.destination.release === 'day'">
      {{ ' ' }}
      <Select
        class="words"
        :model-value="item.destination.day ?? null"
        :options="days"
        option-label="name"
        option-value="key"
        placeholder="choose an answer"
        :aria-label="`Which answer gives the day of ${item.name}`"
        @update:model-value="change(item.key, 'day', $event)"
      />, at eight in the morning; at once where none was given</template
    >,
    <Select
      class="words"
      :model-value="item.destination.only_once ?? false"
      :options="again"
      option-label="name"
      option-value="key"
      :aria-label="`Whether ${item.name} gets it again`"
      @update:model-value="change(item.key, 'only_once', $event)"
    />
    <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['release', 'day', 'only_once']" />
  </dd>
</template>
