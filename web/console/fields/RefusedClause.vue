<script setup lang="ts">
import ConditionClause from './ConditionClause.vue';
import type { Condition } from './condition';
import { useDraft, type Draft, type DraftField, type Level } from './draft';
import OtherLanguages from './OtherLanguages.vue';
import { explained } from './standIn';
import WordInput from './WordInput.vue';

// The manager decides here when an answer is refused that is right by itself, and what the shopper reads then; they need to see what the rule saw in the
// preview's cart, on both sides.
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change } = useDraft();
const set = (setting: string, value: unknown) => void change(field.field.key, setting, value);
const LABEL = 'What the shopper reads when it is refused';
</script>

<template>
  <div class="refused">
    is refused when
    <ConditionClause
      :model-value="field.field.refused_when as Condition | null"
      :draft="draft"
      :level="field.field.level as Level"
      :sentence="field.sentences.refused_when"
      :explained="explained?.refused_when"
      :of-key="field.field.key"
      @update:model-value="set('refused_when', $event ?? null)"
    />
    and says then “<WordInput
      :value="field.field.refused_saying?.en ?? ''"
      :label="LABEL"
      placeholder="the usual sentence"
      @save="set('refused_saying.en', $event)"
    />”<OtherLanguages
      :texts="field.field.refused_saying ?? {}"
      :label="LABEL"
      :lines="false"
      @save="(language, text) => set(`refused_saying.${language}`, text)"
    />
  </div>
</template>
