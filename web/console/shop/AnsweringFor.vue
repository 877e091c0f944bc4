<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { computed } from 'vue';
import { api, ask } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import PickSeveral from '../parts/PickSeveral.vue';

/** Who is told when something is stuck at a destination. */
const client = useQueryClient();
const answering = useQuery({ queryKey: ['shop', 'answers-for'], queryFn: () => ask(api.GET('/api/console/v1/shop/answers-for')) });
const people = useQuery({ queryKey: ['shop', 'accounts'], queryFn: () => ask(api.GET('/api/console/v1/shop/accounts')) });
const deliveries = useQuery({ queryKey: ['deliveries'], queryFn: () => ask(api.GET('/api/console/v1/deliveries')) });
const { failure, run } = useWork();

const rows = computed(() => [
  ...(deliveries.data.value?.destinations ?? []).map((d) => ({ key: d.key, name: d.name })),
  { key: '', name: 'whatever nobody else answers for' },
]);
const choices = computed(() => (people.data.value ?? []).filter((p) => !p.disabled));
const of = (destination: string) => answering.data.value?.find((a) => a.destination === destination)?.accounts ?? [];

async function set(destination: string, accounts: string[]): Promise<void> {
  await run(() => ask(api.PUT('/api/console/v1/shop/answers-for', { body: { destination, accounts } })));
  await client.invalidateQueries({ queryKey: ['shop'] });
}
</script>

<template>
  <section class="shop-part" aria-label="Who answers for what">
    <h2>Who answers for what</h2>
    <p class="small soft">
      Whoever answers for a destination gets one e-mail about what is stuck there. Where nobody is named, every manager does.
    </p>
    <table class="ruled">
      <tbody>
        <tr v-for="row in rows" :key="row.key">
          <td>{{ row.name }}</td>
          <td>
            <PickSeveral
              :value="of(row.key)"
              :options="choices"
              option-value="id"
              :placeholder="row.key && of('').length ? 'as below' : 'every manager'"
              :aria-label="`Who answers for ${row.name}`"
              @save="set(row.key, $event)"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
  </section>
</template>
