<script setup lang="ts">
import { computed, reactive, useTemplateRef } from 'vue';
import type { Answer, AnswerProblem, Answers, Asked, Evaluated } from './answers';
import { announced } from './announce';
import { isTimely } from './answers';
import { isBox } from './boxes';
import { isGroup } from './controls';
import EntryRow from './EntryRow.vue';
import { takeGiven } from './given';
import { betweenParts, type Row } from './rows';

/** The fields of the order, of one line or of one unit at one step. It sends answers and draws what comes back; it knows no rule. */
const {
  asked,
  problems,
  showAll,
  prefix,
  sections = [],
  settled = {},
  level = 2,
} = defineProps<{
  asked: Asked[];
  problems: AnswerProblem[];
  /** Whether problems show everywhere, or only where the shopper has been. */
  showAll: boolean;
  /** Makes the ids of this form differ from those of another on the page. */
  prefix: string;
  /** The sections that fields stand in. */
  sections?: Evaluated['sections'];
  /** What was answered before, on another page: shown as answered until somebody wants to change it. */
  settled?: Record<string, string>;
  /** The level of the headings of sections, under those of the page. */
  level?: number;
}>();
const answers = defineModel<Answers>({ required: true });

const root = useTemplateRef<HTMLElement>('root');
const visited = reactive(new Set<string>());
const reopened = reactive(new Set<string>());
const drawn = computed(() => asked.filter((field) => !field.kept_off));
const said = announced(() => drawn.value.map((f) => ({ id: f.slot, name: f.asks_nothing ? '' : f.label })));

// What stands nowhere here, as it is given by the page or worked out, is told by itself where it keeps the shopper from going on.
const unseen = computed(() => (showAll ? problems.filter((p) => !drawn.value.some((field) => field.field === p.field)) : []));

const rows = computed(() =>
  betweenParts(
    drawn.value.map((field) => {
      const problem = problems.find((p) => p.field === field.field);
      const id = `${prefix}-${field.field}`;
      const shown = problem && isTimely(problem, answers.value[field.field], visited.has(field.field), showAll) ? problem : undefined;
      return {
        field,
        id,
        problem: shown,
        group: isGroup(field),
        box: isBox(field),
        settled: !reopened.has(field.field) && !problem ? settled[field.field] : undefined,
        describedBy:
          [(field.cost || field.left) && `${id}-cost`, field.help && `${id}-help`, shown && `${id}-problem`].filter(Boolean).join(' ') ||
          undefined,
        between: {},
      };
    }),
  ),
);
const headingOf = ({ field }: Row, i: number) =>
  field.section && rows.value[i - 1]?.field.section !== field.section ? sections.find((s) => s.key === field.section) : undefined;

// A control holds the default until it is touched; emptied, it stays empty.
const valueOf = (field: Asked) => answers.value[field.field] ?? field.default ?? undefined;

function set(key: string, answer: Answer | undefined): void {
  // What is handed in whole can be spoken of at once; what is typed, when the shopper has been there.
  if (asked.some((field) => field.field === key && ['file', 'picture'].includes(field.type))) visited.add(key);
  answers.value = { ...answers.value, [key]: answer ?? '' };
}

takeGiven(
  () => asked,
  (field) => answers.value[field],
  (given) => (answers.value = { ...answers.value, ...Object.fromEntries(given.map((g) => [g.field, g.value])) }),
);

/** Puts the focus on the first control with a problem; false when there is none here. */
function focusFirstProblem(): boolean {
  // Of several files, the one that is wrong is taken out by its own button.
  const first = root.value?.querySelector<HTMLElement>('[aria-invalid="true"], .entry-files .wrong button, .entry-unseen');
  first?.focus();
  return !!first;
}

defineExpose({ focusFirstProblem });
</script>

<template>
  <div ref="root" class="entry">
    <template v-for="(row, i) in rows" :key="row.field.slot">
      <div v-if="headingOf(row, i)" class="entry-heading">
        <component :is="`h${level}`">{{ headingOf(row, i)!.heading }}</component>
        <p v-if="headingOf(row, i)!.text">{{ headingOf(row, i)!.text }}</p>
      </div>
      <EntryRow :row="row" :value-of="valueOf" @set="set" @visit="visited.add($event)" @reopen="reopened.add($event)" />
    </template>
    <p v-for="problem in unseen" :key="problem.field ?? ''" class="entry-problem entry-unseen" role="alert" tabindex="-1">
      {{ problem.sentence }}
    </p>
    <p class="visually-hidden" role="status">{{ said }}</p>
  </div>
</template>

<style src="./entry.css"></style>
