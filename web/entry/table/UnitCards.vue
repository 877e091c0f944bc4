<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import EntryForm from '../EntryForm.vue';
import { ofUnit, type AnswerProblem, type Answers, type Asked, type Evaluated, type ToldUnit } from '../answers';
import { say } from '../../shared/wording';

/** Each one of many on a telephone: one at a time, folded when it is done. */
const { asked, problems, units, sections, answersOf, showAll, prefix, level } = defineProps<{
  asked: Asked[];
  problems: AnswerProblem[];
  units: ToldUnit[];
  sections: Evaluated['sections'];
  answersOf: (unit: string) => Answers;
  showAll: boolean;
  prefix: string;
  level: number;
}>();
const emit = defineEmits<{ set: [answers: Map<string, Answers>] }>();

const root = useTemplateRef<HTMLElement>('root');
const form = useTemplateRef<InstanceType<typeof EntryForm>[]>('form');
const open = ref<string | undefined>(units.find((u) => !u.told)?.id);
const left = ref(new Set<string>());
const wrong = computed(() => new Set(problems.map((p) => p.unit_id)));
const isTold = (unit: string) => showAll || left.value.has(unit);

async function turnTo(unit: string | undefined): Promise<void> {
  if (open.value) left.value.add(open.value);
  open.value = unit;
  await nextTick();
  const begin = unit
    ? root.value?.querySelector<HTMLElement>('.entry-card-open input, .entry-card-open select, .entry-card-open textarea')
    : root.value?.querySelector<HTMLElement>('button');
  begin?.focus();
}

/** Puts the focus on the first control with a problem, and opens the one that it is of; false when there is none here. */
function focusFirstProblem(): boolean {
  const first = units.find((u) => wrong.value.has(u.id));
  if (!first) return false;
  open.value = first.id;
  void nextTick(() => form.value?.[0]?.focusFirstProblem());
  return true;
}

defineExpose({ focusFirstProblem });
</script>

<template>
  <div ref="root">
    <template v-for="(unit, i) in units" :key="unit.id">
      <fieldset v-if="open === unit.id" class="entry-card-open">
        <legend>{{ unit.name }}</legend>
        <EntryForm
          ref="form"
          :model-value="answersOf(unit.id)"
          :asked="ofUnit(asked, unit.id)"
          :problems="ofUnit(problems, unit.id)"
          :sections="sections"
          :show-all="isTold(unit.id)"
          :level="level"
          :prefix="`${prefix}-${unit.id}`"
          @update:model-value="emit('set', new Map([[unit.id, $event]]))"
        />
        <button type="button" class="entry-take" @click="turnTo(units[i + 1]?.id)">
          {{ units[i + 1] ? say('form.next', units[i + 1]!.name) : say('form.done') }}
        </button>
      </fieldset>
      <button v-else type="button" class="entry-card" @click="turnTo(unit.id)">
        <span>{{ unit.name }}</span>
        <span class="entry-optional">{{ unit.told || say('form.nothing_filled_in') }}</span>
        <span v-if="isTold(unit.id) && wrong.has(unit.id)" class="entry-problem">{{ say('form.needs_something') }}</span>
      </button>
    </template>
  </div>
</template>

<style scoped>
.entry-card {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0 1rem;
  width: 100%;
  min-height: 2.6rem;
  padding: 0.4rem 0;
  font: inherit;
  color: inherit;
  text-align: left;
  background: none;
  border: 0;
  border-top: 1px solid var(--shop-rule, #d8d4c4);
  cursor: pointer;
}
.entry-take {
  margin-top: 1rem;
}
</style>
