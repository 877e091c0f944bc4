<script setup lang="ts">
import { computed, useTemplateRef } from 'vue';
import EntryForm from './EntryForm.vue';
import { announced } from './announce';
import { allUnits, type Answers, type Evaluated, type Unit } from './answers';

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
const of = <T extends { unit_id: string | null }>(all: T[], unit: string | null) => all.filter((x) => x.unit_id === unit);
const answersOf = (id: string) => units.value.find((u) => u.id === id)?.answers ?? {};

// They go back in the order in which they stand, so that each keeps its place. One that was taken out meanwhile, and is still drawn, stays out.
function setUnit(id: string, given: Answers): void {
  const known = new Set([id, ...units.value.map((u) => u.id)]);
  units.value = allUnits(evaluation, line, units.value)
    .filter((u) => known.has(u.id))
    .map((u) => (u.id === id ? { ...u, answers: given } : u));
}

const said = announced(() => named.value);

// What was typed for this one before stays where the first has no answer.
const copyFirst = (id: string) => setUnit(id, { ...answersOf(id), ...answersOf(named.value[0]!.id) });

const forms = useTemplateRef<InstanceType<typeof EntryForm>[]>('forms');
const whole = useTemplateRef<InstanceType<typeof EntryForm>>('whole');

/** Puts the focus on the first control with a problem; false when there is none here. */
const focusFirstProblem = (): boolean => !!whole.value?.focusFirstProblem() || !!forms.value?.some((form) => form.focusFirstProblem());

defineExpose({ focusFirstProblem });
</script>

<template>
  <div class="line-form">
    <EntryForm
      v-if="of(asked, null).length"
      ref="whole"
      v-model="answers"
      :asked="of(asked, null)"
      :problems="of(problems, null)"
      :sections="evaluation.sections"
      :show-all="showAll"
      :prefix="prefix"
      :level="level"
    />
    <fieldset v-for="(unit, i) in named" :key="unit.id">
      <legend>{{ unit.name }}</legend>
      <button v-if="i > 0" type="button" class="entry-clear" @click="copyFirst(unit.id)">
        Copy from the first<span class="visually-hidden"> to {{ unit.name }}</span>
      </button>
      <EntryForm
        ref="forms"
        :model-value="answersOf(unit.id)"
        :asked="of(asked, unit.id)"
        :problems="of(problems, unit.id)"
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
