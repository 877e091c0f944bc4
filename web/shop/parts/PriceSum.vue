<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';

defineProps<{ prices: Schemas['PricesView'] }>();
</script>

<template>
  <dl class="sum">
    <template v-for="row in prices.rows" :key="row.line_id">
      <dt>{{ row.quantity }} × {{ row.label }}</dt>
      <dd>{{ row.sum }}</dd>
    </template>
    <dt class="total">Together</dt>
    <dd class="total">{{ prices.total }}</dd>
  </dl>
</template>
