<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref } from 'vue';
import type { Condition } from './condition';
import ConditionClause from './ConditionClause.vue';
import type { Draft, DraftField, Level } from './draft';
import { useDraft } from './draft';
import { explained } from './standIn';

/** When an answer must be given, beside what is asked. */
const { field, draft } = defineProps<{ field: DraftField; draft: Draft }>();
const { change } = useDraft();

const ALWAYS = 'always';
const NEVER = 'never';
const WHEN = 'when …';
const f = computed(() => field.field);
const requiring = ref(false);
const required = computed(() => (f.value.required ? ALWAYS : f.value.required_when || requiring.value ? WHEN : NEVER));

async function setRequired(choice: string): Promise<void> {
  requiring.value = choice === WHEN;
  if (choice !== WHEN && f.value.required_when) await change(f.value.key, 'required_when', null);
  await change(f.value.key, 'required', choice === ALWAYS);
}
</script>

<template>
  {{ ', must be given ' }}
  <Select
    v-if="field.optional"
    class="words"
    :model-value="required"
    :options="[ALWAYS, NEVER, WHEN]"
    aria-label="When an answer must be given"
    @update:model-value="setRequired"
  />
  <template v-else>always</template>
  <ConditionClause
    v-if="required === WHEN"
    :model-value="f.required_when as Condition | null"
    :draft="draft"
    :level="f.level as Level"
    :sentence="field.sentences.required_when"
    :explained="explained?.required_when"
    :of-key="f.key"
    @update:model-value="change(f.key, 'required_when', $event ?? null)"
  />
</template>
