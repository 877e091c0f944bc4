<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query';
import { computed } from 'vue';
import { api, ask, sentenceOf } from '../../shared/api/client';
import DestinationStates from '../deliveries/DestinationStates.vue';
import StuckDeliveries from '../deliveries/StuckDeliveries.vue';
import { since } from '../parts/when';

// Staff decide here what is done about what is stuck, and need to see where, since when and why, who has it, and what is tried next by itself.
const query = useQuery({
  queryKey: ['deliveries'],
  queryFn: () => ask(api.GET('/api/console/v1/deliveries')),
  refetchInterval: 1_500,
});
const times = useQuery({
  queryKey: ['deliveries', 'times'],
  queryFn: () => ask(api.GET('/api/console/v1/deliveries/times')),
  refetchInterval: 60_000,
});
const view = computed(() => query.data.value);
const waiting = computed(() => view.value?.destinations.reduce((sum, d) => sum + d.waiting, 0) ?? 0);
const oldest = computed(
  () =>
    view.value?.destinations
      .map((d) => d.oldest)
      .filter((o) => o !== null)
      .sort()[0],
);
const sent = computed(() => view.value?.destinations.reduce((sum, d) => sum + d.sent_last_hour, 0) ?? 0);
</script>

<template>
  <div class="plate">
    <div class="title-row">
      <h1>Deliveries</h1>
      <span v-if="view" class="soft small" aria-live="polite"
        >{{ waiting ? `${waiting} waiting` : 'none waiting' }}{{ oldest ? `, the oldest since ${since(oldest, view.at)}` : '' }} ·
        {{ sent }} taken in the last hour</span
      >
    </div>
    <p v-if="query.error.value" class="call" role="alert">{{ sentenceOf(query.error.value) }}</p>
    <template v-if="view">
      <DestinationStates :view="view" :times="times.data.value ?? []" @done="query.refetch()" />
      <StuckDeliveries :view="view" @done="query.refetch()" />
    </template>
  </div>
</template>
