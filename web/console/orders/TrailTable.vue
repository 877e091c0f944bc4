<script setup lang="ts">
import { computed, nextTick, reactive, ref, useTemplateRef } from 'vue';
import FileList from '../../shared/FileList.vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { cellAfter, focusCell } from '../parts/grid';
import MarkSign from '../parts/MarkSign.vue';
import { wordsFor } from '../parts/signs';
import { may } from '../session';

const { order, trail } = defineProps<{ order: Schemas['OrderPageView']; trail: Schemas['TrailView'] }>();
const emit = defineEmits<{ looked: [] }>();
/** Whether whoever looks may see what is covered, and the evidence in which it stands. */
const opens = may('covered');
const chosen = defineModel<{ slot: string; destination: string } | undefined>();

type Row = Schemas['TrailRow'];

const at = <T extends { line_id: string | null; unit_id: string | null }>(all: T[], line: string | null, unit: string | null = null) =>
  all.filter((x) => x.line_id === line && x.unit_id === unit);
const group = (id: string, title: string, note: string, line: string | null, unit: string | null = null) => ({
  id,
  title,
  note,
  rows: at(trail.answers, line, unit),
  unasked: at(trail.not_asked, line, unit),
});
const groups = computed(() => [
  ...order.lines.flatMap((line) => {
    const own = group(line.id, `${line.quantity} × ${line.name}`, `${line.sum} · code ${line.code}`, line.id);
    return [own, ...line.units.map((unit) => group(`${line.id}/${unit.id}`, '', unit.name, line.id, unit.id))];
  }),
  group('', 'The order', 'asked once', null),
]);
const families = computed(() =>
  [...new Set(trail.destinations.map((d) => d.family))].map((family) => ({
    family,
    count: trail.destinations.filter((d) => d.family === family).length,
  })),
);

/** The sensitive answers that were asked for: each look is put on record. */
const uncovered = reactive(new Map<string, Schemas['SeenAnswer']>());
const seenOf = (row: Row) => row.seen ?? uncovered.get(row.slot);

async function look(row: Row): Promise<void> {
  const path = { params: { path: { number: order.number } }, body: { slot: row.slot } };
  uncovered.set(row.slot, await ask(api.POST('/api/console/v1/orders/{number}/looks', path)));
  emit('looked');
}

const cursor = ref({ row: 0, column: 0 });
const table = useTemplateRef<HTMLTableElement>('table');
const ordered = computed(() => groups.value.flatMap((g) => g.rows));
const tab = (row: Row, column: number) => (ordered.value[cursor.value.row]?.slot === row.slot && cursor.value.column === column ? 0 : -1);
const isChosen = (row: Row, destination: string) => chosen.value?.slot === row.slot && chosen.value.destination === destination;

// The thread runs from the first destination that an answer should reach to the last.
function thread(row: Row, column: number): string {
  const reached = row.marks.map((m, i) => (m.expectation === 'verbatim' || m.expectation === 'adapted' ? i : -1)).filter((i) => i >= 0);
  const [first, last] = [reached[0] ?? Infinity, reached.at(-1) ?? -1];
  if (column < first || column > last || first === last) return '';
  return column === first ? 'from' : column === last ? 'to' : 'through';
}

function choose(row: Row, column: number): void {
  cursor.value = { row: ordered.value.findIndex((r) => r.slot === row.slot), column };
  chosen.value = { slot: row.slot, destination: trail.destinations[column]!.key };
}

async function onKey(event: KeyboardEvent): Promise<void> {
  if (event.key === 'Escape') chosen.value = undefined;
  const next = cellAfter(event.key, cursor.value, ordered.value.length, trail.destinations.length);
  if (!next) return;
  event.preventDefault();
  cursor.value = next;
  await nextTick();
  focusCell(table.value);
}
</script>

<template>
  <table
    ref="table"
    role="grid"
    aria-label="Answers and where they arrived"
    :style="{ '--places': trail.destinations.length }"
    @keydown="onKey"
  >
    <colgroup>
      <col class="label" />
      <col />
      <col v-for="destination in trail.destinations" :key="destination.key" class="mark" />
      <col class="lean" />
    </colgroup>
    <thead>
      <tr>
        <td class="label"></td>
        <td></td>
        <th v-for="family in families" :key="family.family" :colspan="family.count" scope="colgroup" class="family">{{ family.family }}</th>
      </tr>
      <tr class="columns">
        <td></td>
        <td></td>
        <th v-for="destination in trail.destinations" :key="destination.key" scope="col">
          <span>{{ destination.name }}</span>
        </th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.id">
      <tr class="section" :class="{ unit: !group.title }">
        <th :colspan="trail.destinations.length + 3" scope="rowgroup">
          <b v-if="group.title">{{ group.title }}</b> {{ group.note }}
        </th>
      </tr>
      <tr
        v-if="group.title && group.rows.length === 0 && group.unasked.length === 0 && !groups.some((g) => g.id.startsWith(`${group.id}/`))"
      >
        <td class="soft" :colspan="trail.destinations.length + 3">nothing was asked</td>
      </tr>
      <tr v-for="row in group.rows" :key="row.slot">
        <th class="label" scope="row">{{ row.label }}</th>
        <td class="answer">
          <span v-if="row.erased" class="soft">erased</span>
          <span v-else-if="row.covered && !seenOf(row) && !opens" class="soft">covered</span>
          <span v-else-if="row.left_empty" class="soft">left empty</span>
          <button v-else-if="row.covered && !seenOf(row)" class="act" @click="look(row)">
            covered; show<span class="visually-hidden"> {{ row.label }}</span>
          </button>
          <span v-else-if="!seenOf(row)" class="soft">does not go to this page</span>
          <template v-else v-for="seen in [seenOf(row)!]" :key="row.slot">
            <FileList v-if="seen.files.length" :data-slot="row.slot" :files="seen.files" />
            <span v-else :data-slot="row.slot">{{ seen.text }}</span>
            <template v-if="row.registry"
              >{{ ' ' }}<span class="soft small">{{ row.registry }}</span></template
            >
            <details v-if="seen.kept" class="kept">
              <summary>word for word</summary>
              {{ seen.kept }}
            </details>
          </template>
        </td>
        <td v-for="(mark, i) in row.marks" :key="mark.destination" class="thread-cell" :class="thread(row, i)">
          <component
            :is="opens ? 'button' : 'span'"
            :role="opens ? undefined : 'img'"
            :tabindex="tab(row, i)"
            :class="{ chosen: isChosen(row, mark.destination) }"
            :aria-label="`${row.label}, ${trail.destinations[i]?.name}: ${wordsFor(mark)}`"
            :title="`${trail.destinations[i]?.name}: ${wordsFor(mark)}`"
            :data-sign="mark.sign"
            @click="opens && choose(row, i)"
          >
            <MarkSign :sign="mark.sign" />
          </component>
        </td>
        <td class="lean"></td>
      </tr>
      <tr v-for="row in group.unasked" :key="row.field" class="unasked">
        <th class="label" scope="row">{{ row.label }}</th>
        <td class="answer soft" :colspan="trail.destinations.length + 2">
          <template v-if="row.answered"><MarkSign sign="struck_line" /> answered, and then no longer asked</template
          ><template v-else>not asked</template><template v-if="row.why">: {{ row.why }}</template>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
/* However many places there are, an answer keeps room to be read: the places move together a little, and what does not fit then is scrolled to. */
table {
  --mark: clamp(44px, calc((100vw - 468px) / var(--places)), 60px);
  table-layout: fixed;
  min-width: calc(196px + 170px + var(--places) * var(--mark) + 50px);
}
.label {
  width: 196px;
}
.mark {
  width: var(--mark);
}
/* The slanted names lean out of the last column. */
.lean {
  width: 50px;
}
.family {
  font-size: 11.5px;
  padding: 8px 0 0 4px;
  text-transform: capitalize;
}
.columns th {
  height: 74px;
  position: relative;
  color: var(--ink);
}
.columns span {
  position: absolute;
  left: 34px;
  bottom: 5px;
  white-space: nowrap;
  transform-origin: 0 100%;
  transform: rotate(-42deg);
}
.section th {
  border-bottom: 1px solid var(--rule-strong);
  padding: 12px 0 4px;
  font-size: 13px;
}
.section b {
  font: 600 14.5px var(--title);
  color: var(--ink);
  margin-right: 8px;
}
.section.unit th {
  padding: 7px 0 2px;
  color: var(--ink-soft);
}
.kept {
  font-size: var(--size-small);
  white-space: pre-line;
  max-width: 60ch;
}
.kept summary {
  color: var(--ink-soft);
  cursor: pointer;
  min-height: 24px;
}
.unasked .label {
  color: var(--ink-faint);
  font-weight: 400;
}
tbody td,
tbody .label {
  border-bottom: 1px solid var(--rule);
  height: 31px;
  padding: 0;
}
tbody .label {
  font-size: var(--size);
}
.answer {
  font-size: 14.5px;
  padding: 5px 10px 5px 0;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.chosen {
  outline: 2px solid var(--ink);
  outline-offset: -2px;
}
/* Narrow, or enlarged twice: what was answered needs the room more than the marks do. */
@media (max-width: 48rem) {
  table {
    --mark: 42px;
    min-width: calc(128px + 150px + var(--places) * var(--mark) + 40px);
  }
  .label {
    width: 128px;
  }

  .lean {
    width: 40px;
  }
  .columns span {
    left: 24px;
  }
  .family {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  tbody .label {
    overflow-wrap: anywhere;
    padding-right: 8px;
  }
}
</style>
