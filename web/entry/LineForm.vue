<script setup lang="ts">
import { computed, defineAsyncComponent, useTemplateRef } from 'vue';
import EntryForm from './EntryForm.vue';
import { announced } from './announce';
import { allUnits, HANDFUL, ofUnit, toldUnits, type Answers, type Evaluated, type Unit } from './answers';
import { useNarrow } from '../shared/narrow';
import { say } from '../shared/wording';

/** The fields of one line at one step, and those of each one of it. */
const {
  evaluation,
  line,
  step,
  showAll,
  prefix,
  level = 2,
} = defineProps<{
  evaluation: Evaluated;
  /** The id of the line. */
  line: string;
  /** The key of the step; none for all steps. */
  step?: string;
  showAll: boolean;
  prefix: string;
  /** The level of the headings of sections. */
  level?: number;
}>();
const answers = defineModel<Answers>('answers', { required: true });
const units = defineModel<Unit[]>('units', { required: true });

const here = <T extends { line_id: string | null; step: string }>(all: T[]) =>
  all.filter((x) => x.line_id === line && (!step || x.step === step));
const asked = computed(() => here(evaluation.asked));
const problems = computed(() => here(evaluation.problems));
const named = computed(() => evaluation.units.filter((u) => u.line_id === line && asked.value.some((a) => a.unit_id === u.id)));
const answersOf = (id: string) => units.value.find((u) => u.id === id)?.answers ?? {};

// They go back in the order in which they stand, so that each keeps its place. One that was taken out meanwhile, and is still drawn, stays out.
function setUnits(given: Map<string, Answers>): void {
  const known = new Set([...given.keys(), ...units.value.map((u) => u.id)]);
  units.value = allUnits(evaluation, line, units.value)
    .filter((u) => known.has(u.id))
    .map((u) => (given.has(u.id) ? { ...u, answers: { ...u.answers, ...given.get(u.id) } } : u));
}

const setUnit = (id: string, given: Answers) => setUnits(new Map([[id, given]]));

// More than a handful are asked in a table, on a telephone one after the other. Loaded where that is so.
const UnitTable = defineAsyncComponent(() => import('./table/UnitTable.vue'));
const UnitCards = defineAsyncComponent(() => import('./table/UnitCards.vue'));
const narrow = useNarrow();
const many = computed(() => named.value.length > HANDFUL);
const ofUnits = <T extends { unit_id: string | null }>(all: T[]) => all.filter((x) => x.unit_id !== null);
const told = computed(() => toldUnits(evaluation, line, units.value).filter((u) => named.value.some((n) => n.id === u.id)));

const said = announced(() => named.value);

// What was typed for this one before stays where the first has no answer.
const copyFirst = (id: string) => setUnit(id, { ...answersOf(id), ...answersOf(named.value[0]!.id) });

const forms = useTemplateRef<InstanceType<typeof EntryForm>[]>('forms');
const table = useTemplateRef<{ focusFirstProblem: () => boolean }>('table');
const whole = useTemplateRef<InstanceType<typeof EntryForm>>('whole');

/** Puts the focus on the first control with a problem; false when there is none here. */
const focusFirstProblem = (): boolean =>
  !!whole.value?.focusFirstProblem() || !!table.value?.focusFirstProblem() || !!forms.value?.some((form) => form.focusFirstProblem());

defineExpose({ focusFirstProblem });
</script>

<template>
  <div class="line-form">
    <EntryForm
      v-if="ofUnit(asked, null).length || ofUnit(problems, null).length"
      ref="whole"
      v-model="answers"
      :asked="ofUnit(asked, null)"
      :problems="ofUnit(problems, null)"
      :sections="evaluation.sections"
      :show-all="showAll"
      :prefix="prefix"
      :level="level"
    />
    <component
      :is="narrow ? UnitCards : UnitTable"
      v-if="many"
      ref="table"
      :asked="ofUnits(asked)"
      :problems="ofUnits(problems)"
      :units="narrow ? told : named"
      :not-asked="evaluation.not_asked_of_some.filter((n) => n.line_id === line)"
      :sections="evaluation.sections"
      :answers-of="answersOf"
      :show-all="showAll"
      :level="level"
      :prefix="prefix"
      @set="setUnits"
    />
    <fieldset v-for="(unit, i) in many ? [] : named" :key="unit.id">
      <legend>{{ unit.name }}</legend>
      <button v-if="i > 0" type="button" class="entry-clear" :aria-label="say('form.copy_first_to', unit.name)" @click="copyFirst(unit.id)">
        {{ say('form.copy_first') }}
      </button>
      <EntryForm
        ref="forms"
        :model-value="answersOf(unit.id)"
        :asked="ofUnit(asked, unit.id)"
        :problems="ofUnit(problems, unit.id)"
        :sections="evaluation.sections"
        :show-all="showAll"
        :level="level"
        :prefix="`${prefix}-${unit.id}`"
        @update:model-value="setUnit(unit.id, $event)"
      />
    </fieldset>
    <p class="visually-hidden" role="status">{{ said }}</p>
  </div>
</template>
