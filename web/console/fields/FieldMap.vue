<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import { cellAfter, focusCell, keepChosenInSight } from '../parts/grid';
import type { SignKey } from '../parts/signs';
import { useColumns, type Column } from './columns';
import type { Draft, DraftField, Level } from './draft';
import { levelWords } from './draft';
import { groupsOf, nameOf, stepOf } from './groups';

const { draft, selected, filter } = defineProps<{ draft: Draft; selected?: string; filter: string }>();
const emit = defineEmits<{
  open: [key: string];
  column: [key: string];
  switch: [key: string, destination: string, on: boolean];
  add: [what: 'section' | 'step'];
}>();

const { families, columns, fold } = useColumns(() => draft);
// A row is drawn again when the columns differ, and not whenever something in the draft does.
const layout = computed(() => families.value.map((f) => `${f.key}${f.folded}`).join());

// All rows stay in the table: what Find leaves out is only hidden, and a row is drawn again when something in it changes.
const groups = computed(() => groupsOf(draft, ''));
const found = computed(() => groupsOf(draft, filter));
const rows = computed(() => found.value.flatMap((g) => g.fields));
const foundGroups = computed(() => new Set(found.value.map((g) => g.key)));
const foundFields = computed(() => new Set(rows.value.map((f) => f.field.key)));
// The cell that the arrows stand on: column 0 is the field, the rest the destinations and folded families.
const cursor = ref({ key: '', column: 0 });
const table = useTemplateRef<HTMLTableElement>('table');
const current = computed(() =>
  rows.value.some((f) => f.field.key === cursor.value.key) ? cursor.value : { key: selected ?? rows.value[0]?.field.key ?? '', column: 0 },
);

const goes = (f: DraftField, destination: string) => f.field.goes_to?.includes(destination) ?? false;
const goesTo = (f: DraftField, column: Column) => column.destinations.filter((d) => goes(f, d.key)).length;
const lastOf = (f: DraftField) => columns.value.reduce((last, c, i) => (goesTo(f, c) ? i : last), -1);
const stepIndexOf = (f: DraftField) => draft.steps.findIndex((s) => s.key === stepOf(draft, f));
const isOwn = (step: string) => draft.own_steps.some((s) => s.step.key === step);
const isOff = (f: DraftField) => f.field.switched_off || f.field.retired;
const asksNothing = (f: DraftField) => draft.types.find((t) => t.key === f.field.type)?.asks_nothing ?? false;
const takes = (f: DraftField, column: Column) =>
  !asksNothing(f) && column.destinations.some((d) => d.levels.includes(f.field.level as Level));
const whyNot = (f: DraftField, destination: string) => f.left_out.find((l) => l.destination === destination)?.why;
const problemOf = (f: DraftField) => draft.problems.find((p) => p.field === f.field.key);
const tab = (key: string, column: number) => (current.value.key === key && current.value.column === column ? 0 : -1);

const stepSign = (f: DraftField): SignKey => `${f.field.required ? 'must' : 'asked'}${f.conditional ? '_if' : ''}`;
const placeSign = (f: DraftField, destination: string): SignKey =>
  whyNot(f, destination) !== undefined
    ? 'flagged_hole'
    : !goes(f, destination)
      ? 'stays'
      : f.field.goes_to_when?.[destination]
        ? 'goes_if'
        : f.too_long.some((t) => t.destination === destination && (t.otherwise === 'shorten' || t.otherwise === 'note'))
          ? 'goes_cut'
          : 'goes';

const tooLong = { refuse: 'refused', call: 'somebody is called', shorten: 'shortened', note: 'continued in the note' };
function goesWords(f: DraftField, destination: string): string {
  const cut = f.too_long.find((t) => t.destination === destination);
  return cut ? `goes there; over ${cut.takes} characters ${tooLong[cut.otherwise]}` : 'goes there';
}

// Where the thread runs through a step's cell: from the mark to the right.
function stepThread(f: DraftField, i: number): string {
  if (lastOf(f) < 0) return '';
  return i === stepIndexOf(f) ? 'from' : i > stepIndexOf(f) ? 'through' : '';
}

function destinationThread(f: DraftField, i: number): string {
  const last = lastOf(f);
  return i < last ? 'through' : i === last ? 'to' : '';
}

keepChosenInSight(
  () => selected,
  () => table.value,
);

async function onKey(event: KeyboardEvent): Promise<void> {
  const row = rows.value.findIndex((f) => f.field.key === current.value.key);
  const next = cellAfter(event.key, { row, column: current.value.column }, rows.value.length, columns.value.length + 1);
  if (next) {
    event.preventDefault();
    cursor.value = { key: rows.value[next.row]?.field.key ?? '', column: next.column };
    await nextTick();
    focusCell(table.value);
  } else if (event.key === 'Enter') {
    // Enter opens the field also from one of its marks; Space is left to the mark itself.
    event.preventDefault();
    emit('open', current.value.key);
  }
}

function press(f: DraftField, column: number, destination: string): void {
  cursor.value = { key: f.field.key, column };
  emit('switch', f.field.key, destination, !goes(f, destination));
}

function open(f: DraftField): void {
  cursor.value = { key: f.field.key, column: 0 };
  emit('open', f.field.key);
}

/** Puts the focus back on the map. */
const focus = () => focusCell(table.value);

defineExpose({ focus });
</script>

<template>
  <table ref="table" role="grid" aria-label="Fields against steps and destinations" @keydown="onKey">
    <thead>
      <tr class="families">
        <td>
          <button class="act" @click="emit('add', 'section')">add a section</button>,
          <button class="act" @click="emit('add', 'step')">a step</button>
        </td>
        <th :colspan="draft.steps.length" scope="colgroup">Asked at</th>
        <td class="gap"></td>
        <th v-for="family in families" :key="family.key" :colspan="family.columns.length" scope="colgroup">
          <button
            v-if="family.count > 1"
            :aria-expanded="!family.folded"
            :title="family.folded ? `Show all ${family.count}` : 'Fold them into one column'"
            @click="fold(family)"
          >
            {{ family.name }}
          </button>
          <template v-else>{{ family.name }}</template>
        </th>
      </tr>
      <tr class="columns">
        <td></td>
        <th v-for="step in draft.steps" :key="step.key" class="step" scope="col">
          <span v-if="!isOwn(step.key)">{{ step.name }}</span>
          <button v-else @click="emit('open', step.key)">{{ step.name }}</button>
        </th>
        <td class="gap"></td>
        <th v-for="column in columns" :key="column.key" scope="col">
          <span v-if="column.folded">{{ column.name }}</span>
          <button
            v-else
            :class="{ off: column.destinations[0]!.destination.switched_off }"
            :title="`What ${column.name} gets, in its order`"
            @click="emit('column', column.key)"
          >
            {{ column.name }}
          </button>
        </th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.key" :hidden="!foundGroups.has(group.key)">
      <tr class="section">
        <th :colspan="draft.steps.length + columns.length + 2" scope="rowgroup">
          <button v-if="group.section" :class="{ chosen: group.section === selected }" @click="emit('open', group.section)">
            {{ group.title }}
          </button>
          <b v-else>{{ group.title }}</b> <span>{{ group.note }}</span>
        </th>
      </tr>
      <tr
        v-for="f in group.fields"
        :key="f.field.key"
        v-memo="[
          f,
          draft.destinations,
          layout,
          draft.steps,
          draft.types,
          stepIndexOf(f),
          problemOf(f),
          f.field.key === selected,
          current.key === f.field.key ? current.column : -1,
          foundFields.has(f.field.key),
        ]"
        :hidden="!foundFields.has(f.field.key)"
        :class="{ selected: f.field.key === selected, off: isOff(f) }"
      >
        <th class="label" scope="row">
          <button
            :tabindex="tab(f.field.key, 0)"
            :aria-current="f.field.key === selected || undefined"
            @focus="cursor = { key: f.field.key, column: 0 }"
            @click="open(f)"
          >
            <span class="name">{{ nameOf(f) }}</span>
            <span v-if="f.field.required" class="visually-hidden">must be answered</span>
            <span class="kind">{{ f.field.retired ? 'retired' : f.field.switched_off ? 'switched off' : f.kind }}</span>
            <span v-if="problemOf(f)" class="problem">needs attention</span>
            <span v-else-if="f.changed" class="fresh">changed</span>
          </button>
        </th>
        <td v-for="(step, i) in draft.steps" :key="step.key" class="thread-cell step" :class="stepThread(f, i)">
          <MarkSign v-if="i === stepIndexOf(f)" :sign="stepSign(f)" />
          <span v-if="i === stepIndexOf(f)" class="visually-hidden">asked here{{ f.conditional ? ' under a condition' : '' }}</span>
        </td>
        <td class="gap thread-cell" :class="{ through: lastOf(f) >= 0 }"></td>
        <td v-for="(column, i) in columns" :key="column.key" class="thread-cell" :class="destinationThread(f, i)">
          <button
            v-if="column.folded"
            class="several"
            :tabindex="tab(f.field.key, i + 1)"
            :aria-label="`${nameOf(f)} goes to ${goesTo(f, column)} of ${column.destinations.length} here`"
            :title="
              column.destinations
                .filter((d) => goes(f, d.key))
                .map((d) => d.name)
                .join(', ') || 'goes to none of them'
            "
            @focus="cursor = { key: f.field.key, column: i + 1 }"
            @click="open(f)"
          >
            <MarkSign v-if="!goesTo(f, column)" sign="stays" />
            <span v-else>{{ goesTo(f, column) }}</span>
          </button>
          <button
            v-else-if="takes(f, column)"
            role="switch"
            :tabindex="tab(f.field.key, i + 1)"
            :aria-checked="goes(f, column.key)"
            :aria-label="`${nameOf(f)} goes to: ${column.name}`"
            :title="`${column.name}: ${whyNot(f, column.key) ?? (goes(f, column.key) ? goesWords(f, column.key) : 'does not go')}`"
            @focus="cursor = { key: f.field.key, column: i + 1 }"
            @click="press(f, i + 1, column.key)"
          >
            <MarkSign :sign="placeSign(f, column.key)" />
          </button>
          <span
            v-else
            class="none"
            :title="`${column.name} has no place for answers given once for ${levelWords[f.field.level as Level]}`"
          ></span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  table-layout: fixed;
  width: max-content;
}
.families td:first-child,
.columns td:first-child {
  width: 248px;
}
.families th {
  font-size: 11.5px;
  padding: 0 0 2px 4px;
}
.columns th {
  width: 48px;
  height: 88px;
  position: relative;
  font-size: var(--size-small);
  color: var(--ink);
}
.columns button,
.families button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
}
.columns .step button,
.families button {
  text-decoration: underline;
  text-underline-offset: 2px;
}
.columns button:hover {
  text-decoration: underline;
}
.families button {
  min-height: 24px;
}
.several span {
  position: relative;
  z-index: 1;
  background: var(--paper);
  padding: 0 4px;
  font-size: var(--size-small);
  font-variant-numeric: tabular-nums;
}
.columns span,
.columns button {
  position: absolute;
  left: 25px;
  bottom: 6px;
  white-space: nowrap;
  transform-origin: 0 100%;
  transform: rotate(-52deg);
}
.columns .step {
  width: 33px;
}
.columns .step span,
.columns .step button {
  left: 17px;
}
.columns .off {
  color: var(--ink-soft);
  text-decoration: line-through;
}
.columns .off:hover {
  text-decoration: underline line-through;
}
/* However long the map is, what its columns are stays in sight. */
thead {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--paper);
}
.columns .gap {
  width: 14px;
}
.section th {
  border-bottom: 1px solid var(--rule-strong);
  padding: 12px 0 3px 9px;
  color: var(--ink);
}
.section b {
  font: 600 14px var(--title);
  margin-right: 8px;
}
.section button {
  font: 600 14px var(--title);
  color: inherit;
  background: none;
  border: 0;
  padding: 2px 0;
  margin-right: 8px;
  cursor: pointer;
}
.section button:hover,
.section button.chosen {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.section span {
  color: var(--ink-soft);
}
/* Soft enough to stand back, and dark enough to be read. */
.off .name,
.off svg {
  color: var(--ink-soft);
}
.off .name {
  font-weight: 400;
  font-style: italic;
}
.off .thread-cell::before {
  background: repeating-linear-gradient(90deg, var(--rule-strong) 0 4px, transparent 4px 8px);
}
.label,
.thread-cell {
  border-bottom: 1px solid var(--rule);
  height: 29px;
  padding: 0;
}
.label {
  font-size: var(--size);
  color: var(--ink);
}
.label button {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  cursor: pointer;
  text-align: left;
  display: flex;
  align-items: baseline;
  gap: 6px;
  width: 248px;
  height: 28px;
  line-height: 28px;
  padding: 0 8px 0 9px;
  overflow: hidden;
  white-space: nowrap;
}
.name {
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
}
.kind {
  color: var(--ink-faint);
  font-size: var(--size-small);
  overflow: hidden;
  text-overflow: ellipsis;
  flex: 1 1 0;
}
.fresh,
.problem {
  font-size: var(--size-small);
  color: var(--brass-ink);
}
.problem {
  color: var(--call);
  font-weight: 700;
}
@media (max-width: 900px) {
  .families td:first-child,
  .columns td:first-child,
  .label button {
    width: 200px;
  }
}
.selected > * {
  background: var(--wash);
  border-bottom-color: var(--ink);
  box-shadow: inset 0 1px 0 var(--ink);
}
.selected .several span {
  background: var(--sheet);
}
.selected .thread-cell::before {
  top: calc(50% - 1.25px);
  height: 2.5px;
}
</style>
