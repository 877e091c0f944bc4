<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import EntryForm from '../../entry/EntryForm.vue';
import LineForm from '../../entry/LineForm.vue';
import type { Answers, Evaluated } from '../../entry/answers';
import type { Schemas } from '../../shared/api/client';
import { nameOf } from '../catalogue';
import type { DrawnLine } from '../typed';

/** Everything that one step asks: of the order, and of each line. */
const {
  evaluation,
  lines,
  step,
  showAll,
  level = 2,
} = defineProps<{ evaluation: Evaluated; lines: Schemas['CartLine'][]; step: string; showAll: boolean; level?: number }>();
const answers = defineModel<Answers>('answers', { required: true });
const drafts = defineModel<Record<string, DrawnLine>>('drafts', { required: true });

const asked = computed(() => evaluation.asked.filter((a) => a.step === step && a.line_id === null));
const problems = computed(() => evaluation.problems.filter((p) => p.step === step && p.field && p.line_id === null));
const asking = computed(() =>
  lines.filter((l) => [...evaluation.asked, ...evaluation.problems].some((a) => a.step === step && a.line_id === l.id)),
);

function set(id: string, part: Partial<DrawnLine>): void {
  drafts.value = { ...drafts.value, [id]: { ...drafts.value[id]!, ...part } };
}

const form = useTemplateRef('form');
const lineForms = useTemplateRef<InstanceType<typeof LineForm>[]>('lineForms');

/** Puts the focus on the first control with a problem; false when there is none here. */
const focusFirstProblem = (): boolean => !!form.value?.focusFirstProblem() || !!lineForms.value?.some((f) => f.focusFirstProblem());

defineExpose({ focusFirstProblem });
</script>

<template>
  <div class="questions">
    <EntryForm
      v-if="asked.length || problems.length"
      ref="form"
      v-model="answers"
      :asked="asked"
      :problems="problems"
      :sections="evaluation.sections"
      :show-all="showAll"
      :level="level"
      :prefix="step"
    />
    <section v-for="line in asking" :key="line.id">
      <component :is="`h${level}`" class="of-line">{{ line.quantity }} × {{ nameOf(line) }}</component>
      <LineForm
        ref="lineForms"
        :answers="drafts[line.id]?.answers ?? {}"
        :units="drafts[line.id]?.units ?? []"
        :evaluation="evaluation"
        :line="line.id"
        :step="step"
        :show-all="showAll"
        :level="level + 1"
        :prefix="`${step}-${line.id}`"
        @update:answers="set(line.id, { answers: $event })"
        @update:units="set(line.id, { units: $event })"
      />
    </section>
  </div>
</template>

<style scoped>
.questions {
  display: grid;
  gap: 1.5rem;
}
.of-line {
  font-size: 1.1rem;
}
section {
  border-top: 1px solid var(--shop-rule);
  padding-top: 0.8rem;
}
</style>
