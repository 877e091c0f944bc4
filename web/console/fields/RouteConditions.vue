<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, Level } from './draft';
import { explained } from './standIn';

/** Under which conditions answers go to some of the destinations that they go to. */
const { goesTo, when, draft, level, sentences, ofKey } = defineProps<{
  goesTo?: string[] | null;
  when?: Record<string, unknown> | null;
  draft: Draft;
  level: Level;
  sentences: Record<string, string>;
  ofKey: string;
}>();
const emit = defineEmits<{ set: [destination: string, condition: Condition | null] }>();

/** The destination whose condition is being begun. */
const begun = ref('');
const routed = computed(() => draft.destinations.filter((d) => when?.[d.key] || begun.value === d.key));
const others = computed(() => draft.destinations.filter((d) => goesTo?.includes(d.key) && !routed.value.includes(d)));
const conditionOf = (destination: string) => (when?.[destination] ?? null) as Condition | null;

function save(destination: string, condition: Condition | null | undefined): void {
  begun.value = '';
  emit('set', destination, condition ?? null);
}
</script>

<template>
  <div v-for="destination in routed" :key="destination.key" class="route">
    to {{ destination.phrase }} only when
    <ConditionClause
      :model-value="conditionOf(destination.key)"
      :draft="draft"
      :level="level"
      :sentence="sentences[`goes_to_when.${destination.key}`]"
      :explained="explained?.[`goes_to_when.${destination.key}`]"
      :of-key="ofKey"
      @update:model-value="save(destination.key, $event)"
    />
  </div>
  <div v-if="others.length" class="small">
    <Select
      class="words"
      :model-value="null"
      :options="others"
      option-label="phrase"
      option-value="key"
      placeholder="to one of them only when …"
      aria-label="Goes to one of them under a condition"
      @update:model-value="begun = $event"
    />
  </div>
</template>
