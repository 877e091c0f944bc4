<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import MarkSign from '../parts/MarkSign.vue';
import { cellAfter, focusCell, keepChosenInSight } from '../parts/grid';
import type { SignKey } from '../parts/signs';
import type { Draft, DraftField } from './draft';
import type { Schemas } from '../../shared/api/client';
import { groupsOf, isFound, nameOf } from './groups';
import { familiesOf, TOO_MANY, withFamily, withProduct, type Family } from './scope';

/** The other face of the map: what does each product ask? Categories, and of many products tags, stand as columns and open into their products. */
const { draft, selected, product, filter } = defineProps<{ draft: Draft; selected?: string; product?: string; filter: string }>();
const emit = defineEmits<{
  open: [key: string];
  scope: [key: string, scope: unknown];
  refuse: [key: string, sentence: string];
  add: [scope: Schemas['ProductScope']];
  product: [code: string];
}>();

interface Column {
  key: string;
  name: string;
  family: Family;
  /** Of one product; else of the whole family. */
  code?: string;
}

const opened = ref<string[]>([]);
const few = computed(() => draft.product_count <= 14);
const isOpen = ({ key }: Family) => (few.value ? !opened.value.includes(key) : opened.value.includes(key));
const toggle = ({ key }: Family) =>
  (opened.value = opened.value.includes(key) ? opened.value.filter((k) => k !== key) : [...opened.value, key]);
// A product is found by its name as a field is by its label: then every field is shown, and the columns of the product only.
const word = computed(() => filter.trim().toLowerCase());
const matching = computed(() => new Set(word.value ? draft.products.filter((p) => isFound(p, word.value)).map((p) => p.code) : []));
const byProduct = computed(() => matching.value.size > 0);
// A product that is looked for is found in its categories.
const families = computed(() => familiesOf(draft, !few.value && !byProduct.value));
// A product of several families stands under each of them.
const columns = computed<Column[]>(() =>
  families.value.flatMap((family) => [
    { key: family.key, name: family.all, family },
    ...(isOpen(family) || byProduct.value
      ? family.products.map(({ code, name }) => ({ key: `${family.key}/${code}`, name, family, code }))
      : []),
  ]),
);
const isMatching = ({ code, family }: Column) =>
  code ? matching.value.has(code) : family.products.some((p) => matching.value.has(p.code));
const shownColumns = computed(() => (byProduct.value ? columns.value.filter(isMatching) : columns.value));
const spans = computed(() =>
  families.value
    .map((family) => ({ family, count: shownColumns.value.filter((c) => c.family.key === family.key).length }))
    .filter((span) => span.count),
);
const groups = computed(() =>
  groupsOf(draft, byProduct.value ? '' : filter)
    .map((g) => ({ ...g, fields: g.fields.filter((f) => !f.field.retired) }))
    .filter((g) => g.fields.length),
);
const rows = computed(() => groups.value.flatMap((g) => g.fields));

const asks = (f: DraftField, { code, family }: Column) =>
  code ? f.asks.includes(code) : (family.by === 'tags' ? f.asks_tags : f.asks_categories).includes(family.name);
const isFree = (f: DraftField) => !f.field.section && !f.field.built_in;
const sign = (f: DraftField, column: Column): SignKey =>
  !asks(f, column) ? 'stays' : `${f.field.required ? 'must' : 'asked'}${f.conditional ? '_if' : ''}`;
const wordFor = (f: DraftField, column: Column) =>
  asks(f, column) ? `asked${f.field.required ? ', must be answered' : ''}${f.conditional ? ', under a condition' : ''}` : 'not asked';

const cursor = ref({ row: 0, column: 0 });
const table = useTemplateRef<HTMLTableElement>('table');
const tab = (f: DraftField, column: number) =>
  rows.value[cursor.value.row]?.field.key === f.field.key && cursor.value.column === column ? 0 : -1;

keepChosenInSight(
  () => selected,
  () => table.value,
);

async function onKey(event: KeyboardEvent): Promise<void> {
  const next = cellAfter(event.key, cursor.value, rows.value.length, shownColumns.value.length + 1);
  if (next) {
    event.preventDefault();
    cursor.value = next;
    await nextTick();
    focusCell(table.value);
  } else if (event.key === 'Enter') {
    event.preventDefault();
    emit('open', rows.value[cursor.value.row]?.field.key ?? '');
  }
}

function press(f: DraftField, at: number, column: Column): void {
  cursor.value = { row: rows.value.indexOf(f), column: at };
  const on = !asks(f, column);
  const put = column.code ? withProduct(f, column.code, on, draft) : withFamily(f, column.family, on, draft);
  if (put) emit('scope', f.field.key, put);
  else emit('refuse', f.field.key, TOO_MANY);
}

const focus = () => focusCell(table.value);

defineExpose({ focus });
</script>

<template>
  <p v-if="draft.products.length < draft.product_count" class="small soft part">
    Of {{ draft.product_count.toLocaleString() }} products, those are shown that a field names, the first of each category or tag, and those
    that you find.
  </p>
  <table ref="table" role="grid" aria-label="Fields against products" @keydown="onKey">
    <thead>
      <tr class="families">
        <td></td>
        <th v-for="{ family, count } in spans" :key="family.key" :colspan="count" scope="colgroup">
          <button class="act" :aria-expanded="isOpen(family)" @click="toggle(family)">
            {{ family.by === 'tags' ? family.all : family.name }}
          </button>
        </th>
      </tr>
      <tr class="columns">
        <td></td>
        <th v-for="column in shownColumns" :key="column.key" scope="col" :class="{ first: !column.code }">
          <button
            v-if="!column.code"
            :title="`Add a field to ${column.name}`"
            @click="emit('add', { all: false, [column.family.by]: [column.family.name] })"
          >
            {{ column.name }}
          </button>
          <button
            v-else
            :class="{ chosen: column.code === product }"
            :aria-current="column.code === product || undefined"
            :title="`What ${column.name} asks`"
            @click="emit('product', column.code)"
          >
            {{ column.name }}
          </button>
        </th>
      </tr>
    </thead>
    <tbody v-for="group in groups" :key="group.key">
      <tr class="section">
        <th :colspan="shownColumns.length + 1" scope="rowgroup">
          <b>{{ group.title }}</b>
        </th>
      </tr>
      <tr v-for="f in group.fields" :key="f.field.key" :class="{ selected: f.field.key === selected }">
        <th class="label" scope="row">
          <button
            :tabindex="tab(f, 0)"
            :aria-current="f.field.key === selected || undefined"
            @focus="cursor = { row: rows.indexOf(f), column: 0 }"
            @click="emit('open', f.field.key)"
          >
            <span class="name">{{ nameOf(f) }}</span> <span class="kind">{{ f.field.level }}{{ f.live_since ? '' : ', new' }}</span>
          </button>
        </th>
        <td v-for="(column, i) in shownColumns" :key="column.key" :class="{ first: !column.code }">
          <button
            v-if="isFree(f)"
            role="switch"
            :tabindex="tab(f, i + 1)"
            :aria-checked="asks(f, column)"
            :aria-label="`${nameOf(f)}: ${column.name}, ${wordFor(f, column)}`"
            :title="`${column.name}: ${wordFor(f, column)}`"
            @focus="cursor = { row: rows.indexOf(f), column: i + 1 }"
            @click="press(f, i + 1, column)"
          >
            <MarkSign :sign="sign(f, column)" />
          </button>
          <span
            v-else
            :tabindex="tab(f, i + 1)"
            @focus="cursor = { row: rows.indexOf(f), column: i + 1 }"
            :title="`${column.name}: ${wordFor(f, column)}; ${f.field.built_in ? 'a question of the shop’s own' : 'its section says of which products'}`"
            ><MarkSign :sign="sign(f, column)" /><span class="visually-hidden">{{ wordFor(f, column) }}</span></span
          >
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.part {
  margin: 0 0 8px;
  position: sticky;
  left: 0;
  width: max-content;
}
/* However many rows there are, which product a column is stays in sight. */
thead {
  position: sticky;
  top: 0;
  z-index: 3;
  background: var(--paper);
}
/* Of many columns some are out of sight; which field a row is, is not. */
.label,
.section b,
thead td {
  position: sticky;
  left: 0;
  z-index: 2;
  background: var(--paper);
}
.columns .chosen {
  font-weight: 650;
  text-decoration: underline;
}
table {
  table-layout: fixed;
  width: max-content;
  margin-right: 60px;
}
.families td,
.columns td {
  width: 230px;
}
.families th {
  font-size: 11.5px;
  padding: 0 0 2px 6px;
  text-align: left;
  white-space: nowrap;
}
.families .act {
  min-height: 24px;
}
.columns th {
  width: 38px;
  height: 132px;
  position: relative;
  font-size: var(--size-small);
  pointer-events: none;
}
.columns button {
  position: absolute;
  left: 20px;
  bottom: 6px;
  white-space: nowrap;
  max-width: 132px;
  overflow: hidden;
  text-overflow: ellipsis;
  transform-origin: 0 100%;
  transform: rotate(-55deg);
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 2px 0;
  cursor: pointer;
  pointer-events: auto;
  z-index: 1;
}
.first {
  border-left: 1px solid var(--rule);
}
.section th {
  border-bottom: 1px solid var(--rule-strong);
  padding: 10px 0 3px 9px;
  text-align: left;
}
.section b {
  font: 600 14px var(--title);
}
.label,
td {
  border-bottom: 1px solid var(--rule);
  height: 28px;
  padding: 0;
  text-align: center;
}
thead td {
  border: 0;
}
.label button {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  cursor: pointer;
  text-align: left;
  width: 230px;
  height: 27px;
  padding: 0 8px 0 9px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.name {
  font-weight: 500;
}
.kind {
  color: var(--ink-faint);
  font-size: var(--size-small);
  font-weight: 400;
}
td button {
  width: 100%;
  min-height: 27px;
  border: 0;
  padding: 0;
  background: none;
  color: inherit;
  cursor: pointer;
}
.selected > * {
  background: var(--wash);
  border-bottom-color: var(--ink);
  box-shadow: inset 0 1px 0 var(--ink);
}
</style>
