<script setup lang="ts">
import ClauseNotes from './ClauseNotes.vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import WordInput from './WordInput.vue';

/** What a destination is called. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change, refused } = useDraft();
</script>

<template>
  <dd>
    “<WordInput
      :value="item.name"
      label="Name of the destination"
      :invalid="refused?.field === item.key && refused.setting === 'name'"
      @save="change(item.key, 'name', $event)"
    />”
    <ClauseNotes :of="item.key" :problems="draft.problems" :settings="['name', 'kind', 'key']" />
  </dd>
</template>
