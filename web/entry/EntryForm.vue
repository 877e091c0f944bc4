<script setup lang="ts">
import { computed, reactive, useTemplateRef } from 'vue';
import type { Answer, AnswerProblem, Answers, Asked } from './answers';
import { controlFor, isGroup } from './controls';

/** The fields of one line or of the order at one step. It sends answers and draws what comes back; it knows no rule. */
const { asked, problems, showAll, prefix } = defineProps<{
  asked: Asked[];
  problems: AnswerProblem[];
  /** Whether problems show everywhere, or only where the shopper has been. */
  showAll: boolean;
  /** Makes the ids of this form differ from those of another on the page. */
  prefix: string;
}>();
const answers = defineModel<Answers>({ required: true });

const root = useTemplateRef<HTMLElement>('root');
const visited = reactive(new Set<string>());

const rows = computed(() =>
  asked.map((field) => {
    const problem = problems.find((p) => p.field === field.field);
    const id = `${prefix}-${field.field}`;
    const shown = problem && isTimely(problem, field.field) ? problem : undefined;
    return {
      field,
      id,
      problem: shown,
      group: isGroup(field.type),
      describedBy: [field.help && `${id}-help`, shown && `${id}-problem`].filter(Boolean).join(' ') || undefined,
    };
  }),
);

// Somebody who goes past an empty field is not told off before trying to go on; and "fill this in" about a text that is there
// is the reply to an earlier state, which must not push the button away from under the pointer.
function isTimely(problem: AnswerProblem, key: string): boolean {
  const answer = answers.value[key];
  if (problem.code === 'required') return showAll && !(typeof answer === 'string' && answer.trim() !== '');
  return showAll || visited.has(key);
}

function set(key: string, answer: Answer | undefined): void {
  answers.value = { ...answers.value, [key]: answer ?? '' };
}

/** Puts the focus on the first control with a problem. */
function focusFirstProblem(): void {
  root.value?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus();
}

defineExpose({ focusFirstProblem });
</script>

<template>
  <div ref="root" class="entry">
    <div v-for="row in rows" :key="row.field.slot" class="entry-field" @focusout="visited.add(row.field.field)">
      <component :is="row.group ? 'p' : 'label'" :id="`${row.id}-label`" class="entry-label" :for="row.group ? undefined : row.id">
        {{ row.field.label }} <span v-if="!row.field.required" class="entry-optional">if you like</span>
      </component>
      <component
        :is="controlFor(row.field.type)"
        :id="row.id"
        :model-value="answers[row.field.field]"
        :asked="row.field"
        :described-by="row.describedBy"
        :invalid="!!row.problem"
        :part="row.problem?.part"
        @update:model-value="set(row.field.field, $event)"
      />
      <p v-if="row.field.help" :id="`${row.id}-help`" class="entry-help">{{ row.field.help }}</p>
      <p v-if="row.problem" :id="`${row.id}-problem`" class="entry-problem" role="alert">{{ row.problem.sentence }}</p>
    </div>
  </div>
</template>

<style src="./entry.css"></style>
