<script setup lang="ts">
import { computed, onBeforeUnmount, reactive, useTemplateRef, watch } from 'vue';
import type { Answer, AnswerProblem, Answers, Asked, Evaluated } from './answers';
import { announced } from './announce';
import { isBlank } from './answers';
import { controlFor, isGroup } from './controls';
import { givenFor, onGiven } from './given';

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
const said = announced(() => asked.map((f) => ({ id: f.slot, name: f.asks_nothing ? '' : f.label })));

const rows = computed(() =>
  asked.map((field, i) => {
    const problem = problems.find((p) => p.field === field.field);
    const id = `${prefix}-${field.field}`;
    const shown = problem && isTimely(problem, field.field) ? problem : undefined;
    return {
      field,
      id,
      problem: shown,
      heading: field.section && asked[i - 1]?.section !== field.section ? sections.find((s) => s.key === field.section) : undefined,
      group: isGroup(field),
      settled: !reopened.has(field.field) && !problem ? settled[field.field] : undefined,
      describedBy:
        [(field.cost || field.left) && `${id}-cost`, field.help && `${id}-help`, shown && `${id}-problem`].filter(Boolean).join(' ') ||
        undefined,
    };
  }),
);

// Somebody who goes past an empty field is not told off before trying to go on; and "fill this in" about a text that is there
// is the reply to an earlier state, which must not push the button away from under the pointer.
function isTimely(problem: AnswerProblem, key: string): boolean {
  if (problem.code === 'required') return showAll && isBlank(answers.value[key]);
  return showAll || visited.has(key);
}

// A control holds the default until it is touched; emptied, it stays empty.
const valueOf = (field: Asked) => answers.value[field.field] ?? field.default ?? undefined;

// While its year is typed, a date control already gives years such as 0002.
const isWholeDate = (answer: Answer | undefined): boolean => typeof answer === 'string' && answer >= '1000';

function set(key: string, answer: Answer | undefined): void {
  // What is handed in whole can be spoken of at once; what is typed, when the shopper has been there.
  if (
    asked.some(
      (field) => field.field === key && (['file', 'picture'].includes(field.type) || (field.type === 'date' && isWholeDate(answer))),
    )
  )
    visited.add(key);
  answers.value = { ...answers.value, [key]: answer ?? '' };
}

// What the page gives counts as if it had been entered here, also what it gave before the field was asked.
onBeforeUnmount(
  onGiven(({ field, unit, value }) => {
    if (asked.some((a) => a.given_by_page && a.field === field && a.unit_id === (unit ?? null))) set(field, value);
  }),
);
watch(
  () =>
    asked
      .filter((a) => a.given_by_page)
      .map((a) => a.slot)
      .join(),
  () => {
    const given = asked.filter((a) => a.given_by_page).map((a) => [a.field, givenFor(a.field, a.unit_id)] as const);
    const fresh = given.filter(
      ([field, answer]) => answer !== undefined && JSON.stringify(answer) !== JSON.stringify(answers.value[field]),
    );
    if (fresh.length) answers.value = { ...answers.value, ...Object.fromEntries(fresh as [string, Answer][]) };
  },
  { immediate: true },
);

/** Puts the focus on the first control with a problem; false when there is none here. */
function focusFirstProblem(): boolean {
  // Of several files, the one that is wrong is taken out by its own button.
  const first = root.value?.querySelector<HTMLElement>('[aria-invalid="true"], .entry-files .wrong button');
  first?.focus();
  return !!first;
}

defineExpose({ focusFirstProblem });
</script>

<template>
  <div ref="root" class="entry">
    <template v-for="row in rows" :key="row.field.slot">
      <div v-if="row.heading" class="entry-heading">
        <component :is="`h${level}`">{{ row.heading.heading }}</component>
        <p v-if="row.heading.text">{{ row.heading.text }}</p>
      </div>
      <p v-if="row.settled" class="entry-field entry-settled" :class="{ shares: row.field.shares_row }">
        <span class="entry-label">{{ row.field.label }}</span>
        <span class="entry-told">{{ row.settled }}</span>
        <button type="button" class="entry-clear" @click="reopened.add(row.field.field)">
          Change<span class="visually-hidden"> {{ row.field.label }}</span>
        </button>
      </p>
      <div v-else class="entry-field" :class="{ shares: row.field.shares_row }" @focusout="visited.add(row.field.field)">
        <component :is="row.group ? 'p' : 'label'" :id="`${row.id}-label`" class="entry-label" :for="row.group ? undefined : row.id">
          {{ row.field.label }}
          <span v-if="!row.field.required && !row.field.asks_nothing && !row.field.given_by_page" class="entry-optional">optional</span>
        </component>
        <img v-if="row.field.picture" class="entry-picture" :src="`/pictures/${row.field.picture}`" alt="" />
        <component
          :is="controlFor(row.field)"
          :id="row.id"
          :model-value="valueOf(row.field)"
          :asked="row.field"
          :described-by="row.describedBy"
          :invalid="!!row.problem"
          v-bind="row.problem?.part ? { part: row.problem.part } : {}"
          @update:model-value="set(row.field.field, $event)"
        />
        <p v-if="row.field.cost || row.field.left || row.field.adds" class="entry-costs">
          <span v-if="row.field.cost || row.field.left" :id="`${row.id}-cost`">{{
            [row.field.cost, row.field.left].filter(Boolean).join(', ')
          }}</span>
          <span v-if="row.field.adds" class="entry-adds">{{ row.field.adds }}</span>
        </p>
        <p v-if="row.field.help" :id="`${row.id}-help`" class="entry-help">{{ row.field.help }}</p>
        <p v-if="row.problem" :id="`${row.id}-problem`" class="entry-problem" role="alert">{{ row.problem.sentence }}</p>
      </div>
    </template>
    <p class="visually-hidden" role="status">{{ said }}</p>
  </div>
</template>

<style src="./entry.css"></style>
