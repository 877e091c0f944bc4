<script setup lang="ts">
import { computed } from 'vue';
import type { Schemas } from '../shared/api/client';
import { say } from '../shared/wording';

/** What a cart or an order comes to, row by row: the goods, under them what answers add, the tax, and all together. */
const {
  prices,
  units = [],
  shown = 'rows',
} = defineProps<{
  prices: Schemas['PricesView'];
  units?: { line_id?: string; id: string; name: string }[];
  /** All rows with the total, what answers add without it, or the total alone. */
  shown?: 'rows' | 'added' | 'total';
}>();

const rows = computed(() => (shown === 'total' ? [] : prices.rows.filter((row) => shown === 'rows' || row.kind !== 'goods')));

const nameOf = (row: Schemas['PriceRowView']) =>
  units.find((u) => u.id === row.unit_id && (u.line_id ?? row.line_id) === row.line_id)?.name;
</script>

<template>
  <dl class="sum">
    <template v-for="(row, i) in rows" :key="i">
      <dt v-if="row.kind === 'goods'">{{ row.quantity }} × {{ row.label }}</dt>
      <dt v-else :class="{ extra: row.line_id !== null }">
        {{ row.label }}<template v-if="nameOf(row)">, {{ nameOf(row) }}</template
        >{{ ' ' }}
        <span v-if="row.quantity > 1 && row.unit" class="how">{{ row.quantity }} × {{ row.unit }}</span>
      </dt>
      <dd>{{ row.sum }}</dd>
    </template>
    <template v-for="tax in prices.include_tax || shown !== 'rows' ? [] : prices.taxes" :key="tax.rate">
      <dt>{{ say('price.tax_at', tax.rate) }}</dt>
      <dd>{{ tax.tax }}</dd>
    </template>
    <template v-if="prices.buyer_owes_tax && shown === 'rows'">
      <dt class="how">{{ say('price.buyer_owes') }}</dt>
      <dd></dd>
    </template>
    <template v-if="shown !== 'added'">
      <dt class="total">{{ say(prices.is_open ? 'price.total_so_far' : 'price.total') }}</dt>
      <dd class="total">{{ prices.total }}</dd>
    </template>
    <template v-for="tax in prices.include_tax && shown === 'rows' ? prices.taxes : []" :key="tax.rate">
      <dt class="how">{{ say('price.including_tax_at', tax.rate) }}</dt>
      <dd class="how">{{ tax.tax }}</dd>
    </template>
  </dl>
</template>

<style src="./sum.css"></style>
