<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef } from 'vue';
import EntryForm from '../EntryForm.vue';
import { isBlank, isTimely, type Answer, type AnswerProblem, type Answers, type Asked, type Evaluated } from '../answers';
import { takeGiven } from '../given';
import { cellsOf } from './block';
import { columnsOf, type Column } from './columns';
import { focusCell, moveBy } from './gridKeys';
import { byUnit, useFilling } from './filling';
import { laidOver } from './pasting';
import UnitCell from './UnitCell.vue';
import { say, sayCount } from '../../shared/wording';

/** What is asked of each one of many, as a table: a row each, a column a question. It is worked like a spreadsheet, and takes blocks from one. */
const { asked, problems, units, notAsked, sections, answersOf, showAll, prefix, level } = defineProps<{
  /** What is asked of them all. */
  asked: Asked[];
  problems: AnswerProblem[];
  units: { id: string; name: string }[];
  /** What is asked of some and not of others, and why. */
  notAsked: Evaluated['not_asked_of_some'];
  sections: Evaluated['sections'];
  answersOf: (unit: string) => Answers;
  showAll: boolean;
  prefix: string;
  level: number;
}>();
const emit = defineEmits<{ set: [answers: Map<string, Answers>] }>();

const root = useTemplateRef<HTMLElement>('root');
const visited = reactive(new Set<string>());
const opened = ref<{ unit: string; field: string }>();
const at = ref<{ row: number; column: number }>();
const over = ref(false);

const columns = computed(() => columnsOf(asked));
const words = computed(() => asked.filter((a, i) => a.type === 'words_only' && asked.findIndex((b) => b.field === a.field) === i));
const agreed = computed(() => columns.value.filter((c) => c.asked.type === 'agreed_to'));
const headings = computed(() =>
  columns.value
    .map((c) => c.asked.section)
    .reduce<{ key: string | null; span: number }[]>((runs, key) => {
      const last = runs.at(-1);
      if (last && last.key === key) last.span++;
      else runs.push({ key, span: 1 });
      return runs;
    }, [])
    .map((run) => ({ ...run, heading: sections.find((s) => s.key === run.key)?.heading ?? '' })),
);
const slotOf = (unit: string, field: string) => `${unit}/${field}`;
const askedAt = computed(() => new Map(asked.map((a) => [slotOf(a.unit_id!, a.field), a])));
const problemAt = computed(() => new Map(problems.map((p) => [slotOf(p.unit_id ?? '', p.field ?? ''), p])));
const whyAt = computed(() => new Map(notAsked.flatMap((n) => n.unit_ids.map((unit) => [slotOf(unit, n.field), n.why] as const))));
// What stands in no cell is told under the table, where it keeps the shopper from going on.
const unseen = computed(() =>
  showAll ? problems.filter((p) => !columns.value.some((c) => c.field === p.field)).map((p) => ({ ...p, of: nameOf(p.unit_id) })) : [],
);
const nameOf = (unit: string | null | undefined) => units.find((u) => u.id === unit)?.name ?? '';

function problemOf(unit: string, field: string): string | undefined {
  const problem = problemAt.value.get(slotOf(unit, field));
  return problem && isTimely(problem, answersOf(unit)[field], visited.has(slotOf(unit, field)), showAll) ? problem.sentence : undefined;
}

// However far down they stand.
const toMend = computed(() => problems.filter((p) => p.unit_id && p.field && problemOf(p.unit_id, p.field)).length);

// A control holds the default until it is touched; emptied, it stays empty.
const valueOf = (unit: string, field: string) => answersOf(unit)[field] ?? askedAt.value.get(slotOf(unit, field))?.default ?? undefined;
const labelOf = (column: Column, name: string) => `${column.asked.label}, ${name}`;

const set = (unit: string, field: string, answer: Answer) => emit('set', new Map([[unit, { [field]: answer }]]));

const { fill, undo, told, canUndo } = useFilling(
  (unit, field) => answersOf(unit)[field],
  (changes) => emit('set', changes),
);

takeGiven(
  () => asked,
  (field, unit) => answersOf(unit ?? '')[field],
  (given) => emit('set', byUnit(given.map(({ field, unit, value }) => ({ unit: unit!, field, answer: value })))),
);

function onFocus(event: FocusEvent): void {
  const cell = (event.target as Element).closest<HTMLElement>('[data-row]');
  if (cell) at.value = { row: Number(cell.dataset.row), column: Number(cell.dataset.column) };
}

function onLeave(event: FocusEvent): void {
  const cell = (event.target as Element).closest<HTMLElement>('[data-row]');
  const [unit, column] = [units[Number(cell?.dataset.row)], columns.value[Number(cell?.dataset.column)]];
  if (unit && column) visited.add(slotOf(unit.id, column.field));
}

function onKey(event: KeyboardEvent): void {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'd' && here.value?.value !== undefined) {
    event.preventDefault();
    copy(event.shiftKey ? 'all' : 'rest');
  } else if (moveBy(event, root.value!)) event.preventDefault();
}

function onPaste(event: ClipboardEvent): void {
  const cell = (event.target as Element).closest<HTMLElement>('[data-row]');
  const rows = cell && cellsOf(event.clipboardData?.getData('text/plain') ?? '');
  if (!rows || (rows.length === 1 && rows[0]!.length === 1)) return;
  event.preventDefault();
  paste(rows, Number(cell.dataset.row), Number(cell.dataset.column));
}

function paste(block: string[][], row: number, column: number): void {
  const { filled, unfit } = laidOver(block, units.slice(row), columns.value.slice(column), (unit, field) =>
    askedAt.value.get(slotOf(unit, field)),
  );
  for (const { unit, field } of filled) visited.add(slotOf(unit, field));
  fill(filled, unfit ? say('form.pasted_some', filled.length, unfit) : say('form.pasted', filled.length));
}

/** What is in the cell that has the focus, and could be copied to others. */
const here = computed(() => {
  if (!at.value) return undefined;
  const [unit, column] = [units[at.value.row], columns.value[at.value.column]];
  if (!unit || !column) return undefined;
  const one = askedAt.value.get(slotOf(unit.id, column.field));
  const value = one && valueOf(unit.id, column.field);
  const copies = column.manner !== 'told' && !['file', 'picture'].includes(column.asked.type);
  return {
    unit,
    column,
    why: one ? '' : whyAt.value.get(slotOf(unit.id, column.field)),
    value: copies && !isBlank(value) ? value : undefined,
  };
});

function copy(to: 'all' | 'rest'): void {
  const { unit, column, value } = here.value!;
  const from = units.indexOf(unit);
  const filled = units
    .filter((u, i) => u !== unit && (to === 'all' || i > from) && (over.value || isBlank(answersOf(u.id)[column.field])))
    .map((u) => ({ unit: u.id, field: column.field, answer: value! }));
  fill(filled, filled.length ? say('form.copied_to', filled.length) : say('form.nothing_empty'));
}

async function open(unit: string, field: string): Promise<void> {
  const same = opened.value?.unit === unit && opened.value.field === field;
  opened.value = same ? undefined : { unit, field };
  await nextTick();
  if (!same) root.value?.querySelector<HTMLElement>('.under input, .under textarea, .under select, .under button')?.focus();
}

function close(): void {
  const { unit, field } = opened.value!;
  opened.value = undefined;
  focusCell(
    root.value!,
    units.findIndex((u) => u.id === unit),
    columns.value.findIndex((c) => c.field === field),
  );
}

/** Puts the focus on the first control with a problem; false when there is none here. */
function focusFirstProblem(): boolean {
  const first = root.value?.querySelector<HTMLElement>('[aria-invalid="true"], .entry-unseen');
  first?.focus();
  return !!first;
}

defineExpose({ focusFirstProblem });
</script>

<template>
  <div ref="root" class="entry entry-many">
    <p v-for="one in words" :key="one.field" class="entry-words">{{ one.label }} {{ one.help }}</p>
    <div v-for="one in agreed" :key="one.field">
      <p :id="`${prefix}-${one.field}-label`" class="entry-label">{{ one.asked.label }}</p>
      <div class="entry-terms" tabindex="0" role="region" :aria-labelledby="`${prefix}-${one.field}-label`">
        {{ one.asked.settings.terms }}
      </div>
    </div>
    <p class="entry-optional">{{ say('form.paste_hint') }}</p>
    <div class="entry-wide" @keydown="onKey" @focusin="onFocus" @focusout="onLeave" @paste="onPaste">
      <table>
        <thead>
          <tr v-if="headings.some((h) => h.heading)">
            <td></td>
            <th v-for="(run, i) in headings" :key="i" :colspan="run.span" scope="colgroup">{{ run.heading }}</th>
          </tr>
          <tr>
            <td></td>
            <th v-for="column in columns" :key="column.field" scope="col">
              {{ column.asked.label }}
              <span v-if="!column.asked.required && !['told', 'ticked'].includes(column.manner)" class="entry-optional">{{
                say('form.optional')
              }}</span>
              <span v-if="column.asked.unit" class="entry-optional">{{ column.asked.unit }}</span>
              <span v-if="column.asked.cost" class="entry-optional">{{ column.asked.cost }}</span>
              <span v-if="column.asked.help" class="entry-help">{{ column.asked.help }}</span>
            </th>
          </tr>
        </thead>
        <tbody v-for="(unit, row) in units" :key="unit.id">
          <tr>
            <th scope="row">{{ unit.name }}</th>
            <template v-for="(column, i) in columns" :key="column.field">
              <td v-if="askedAt.get(slotOf(unit.id, column.field))" :data-row="row" :data-column="i" :class="column.manner">
                <UnitCell
                  :id="`${prefix}-${unit.id}-${column.field}`"
                  :asked="askedAt.get(slotOf(unit.id, column.field))!"
                  :unit="unit.id"
                  :manner="column.manner"
                  :label="labelOf(column, unit.name)"
                  :value="valueOf(unit.id, column.field)"
                  :opened="opened?.unit === unit.id && opened.field === column.field"
                  :problem="problemOf(unit.id, column.field)"
                  @set="set"
                  @open="open"
                />
              </td>
              <td v-else class="out" :data-row="row" :data-column="i" :title="whyAt.get(slotOf(unit.id, column.field))">
                <span tabindex="-1"
                  ><span class="visually-hidden">{{ whyAt.get(slotOf(unit.id, column.field)) ?? say('form.not_asked') }}</span></span
                >
              </td>
            </template>
          </tr>
          <tr v-if="opened?.unit === unit.id" class="under">
            <td></td>
            <td :colspan="columns.length" @keydown.esc.stop="close">
              <EntryForm
                :model-value="answersOf(unit.id)"
                :asked="[askedAt.get(slotOf(unit.id, opened.field))].filter((a) => !!a)"
                :problems="problems.filter((p) => p.unit_id === unit.id && p.field === opened?.field)"
                :show-all="showAll"
                :level="level"
                :prefix="`${prefix}-${unit.id}-under`"
                @update:model-value="emit('set', new Map([[unit.id, $event]]))"
              />
              <button type="button" class="entry-clear" @click="close">{{ say('form.done_with', unit.name) }}</button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="entry-tools">
      <p v-if="here">
        <span class="entry-optional">{{ labelOf(here.column, here.unit.name) }}</span>
        <template v-if="here.why">: {{ here.why }}</template>
        <template v-else-if="here.value !== undefined">
          <button type="button" class="entry-clear" :title="say('form.keys_copy_to_all')" @click="copy('all')">
            {{ say('form.copy_to_all') }}
          </button>
          <button type="button" class="entry-clear" :title="say('form.keys_copy_to_rest')" @click="copy('rest')">
            {{ say('form.copy_to_rest') }}
          </button>
          <label><input v-model="over" type="checkbox" /> {{ say('form.over_too') }}</label>
        </template>
      </p>
      <p v-if="told">
        <span role="status">{{ told }}</span>
        <button v-if="canUndo" type="button" class="entry-clear" @click="undo">{{ say('form.undo_this') }}</button>
      </p>
    </div>
    <p v-if="toMend" class="entry-problem">
      <span role="status">{{ sayCount('form.to_mend', toMend) }}</span>{{ ' ' }}
      <button type="button" class="entry-clear" @click="focusFirstProblem">{{ say('form.go_to_first') }}</button>
    </p>
    <p v-for="problem in unseen" :key="`${problem.unit_id}${problem.field}`" class="entry-problem entry-unseen" role="alert" tabindex="-1">
      {{ problem.of }}: {{ problem.sentence }}
    </p>
  </div>
</template>

<style src="./table.css"></style>
