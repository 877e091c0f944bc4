<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';

/** The prices of an order, row by row: what staff read out when somebody asks how it adds up. */
const { order } = defineProps<{ order: Schemas['OrderPageView'] }>();

const nameOf = (row: Schemas['PriceRowView']) =>
  order.lines.find((l) => l.id === row.line_id)?.units.find((u) => u.id === row.unit_id)?.name;
</script>

<template>
  <table class="rows">
    <thead>
      <tr>
        <th scope="col">For</th>
        <th scope="col">How many</th>
        <th scope="col">Each</th>
        <th scope="col">Tax</th>
        <th scope="col">Comes to</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, i) in order.prices.rows" :key="i">
        <th scope="row" :class="{ extra: row.kind !== 'goods' && row.line_id !== null }">
          {{ row.label }}<template v-if="nameOf(row)">, {{ nameOf(row) }}</template>
        </th>
        <td>{{ row.quantity }}</td>
        <td>{{ row.unit }}</td>
        <td>{{ row.tax }}</td>
        <td>{{ row.sum }}</td>
      </tr>
      <tr v-for="tax in order.prices.taxes" :key="tax.rate" class="soft">
        <th scope="row" colspan="4">{{ order.prices.include_tax ? 'including tax at' : 'Tax at' }} {{ tax.rate }}</th>
        <td>{{ tax.tax }}</td>
      </tr>
    </tbody>
    <tfoot>
      <tr>
        <th scope="row" colspan="4">Total</th>
        <td>{{ order.prices.total }}</td>
      </tr>
    </tfoot>
  </table>
</template>

<style scoped>
.rows {
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
  margin: 4px 0 8px;
  width: auto;
  min-width: min(640px, 100%);
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 2px 0 2px 22px;
  border-bottom: 1px solid var(--rule);
  white-space: nowrap;
}
th:first-child {
  text-align: left;
  padding-left: 0;
  white-space: normal;
}
th.extra:first-child {
  padding-left: 16px;
}
thead th {
  font-size: var(--size-small);
  color: var(--ink-soft);
  border-bottom-color: var(--rule-strong);
}
tfoot th,
tfoot td {
  font-weight: 650;
  border-bottom: 0;
}
</style>
