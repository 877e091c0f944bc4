<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query';
import Button from 'primevue/button';
import { computed } from 'vue';
import { api, ask } from '../../shared/api/client';
import { dayAndTime, inFull } from '../parts/when';

/** What was changed of the shop, by whom and when. */
const query = useInfiniteQuery({
  queryKey: ['shop', 'record'],
  queryFn: ({ pageParam }) => ask(api.GET('/api/console/v1/shop/record', { params: { query: { before: pageParam } } })),
  initialPageParam: undefined as number | undefined,
  getNextPageParam: (page) => (page.more ? page.changes.at(-1)?.id : undefined),
});
const changes = computed(() => query.data.value?.pages.flatMap((p) => p.changes) ?? []);
</script>

<template>
  <section class="shop-part" aria-label="Record">
    <h2>Record</h2>
    <p v-if="query.isSuccess.value && changes.length === 0" class="soft">Nothing of the shop was changed yet.</p>
    <p v-for="c in changes" :key="c.id" class="small">
      <span class="soft" :title="inFull(c.at)">{{ dayAndTime(c.at) }}</span> <b>{{ c.by }}</b> {{ c.what }}.
    </p>
    <p v-if="query.hasNextPage.value"><Button class="button" @click="query.fetchNextPage()">Show older changes</Button></p>
  </section>
</template>

<style scoped>
p {
  margin: 3px 0;
}
</style>
