<script setup lang="ts">
import { useQuery, useQueryClient } from '@tanstack/vue-query';
import { useTemplateRef } from 'vue';
import { api, ask } from '../../shared/api/client';
import { useWork } from '../../shared/work';

/** The picture over the shop's name on its papers: chosen, seen as it is, and taken away. */
const ADDRESS = '/api/console/v1/shop/letterhead';
const client = useQueryClient();
const query = useQuery({ queryKey: ['shop', 'letterhead'], queryFn: () => ask(api.GET(ADDRESS)) });
const { busy, failure, run } = useWork();
const chooser = useTemplateRef('chooser');

async function change(work: () => Promise<unknown>): Promise<void> {
  await run(work);
  await client.invalidateQueries({ queryKey: ['shop'] });
}

async function put(input: HTMLInputElement): Promise<void> {
  const file = input.files?.[0];
  if (!file) return;
  await change(() =>
    ask(
      api.PUT(ADDRESS, {
        body: file as never,
        bodySerializer: () => file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    ),
  );
  input.value = '';
}
</script>

<template>
  <div v-if="query.data.value" class="picture">
    <img v-if="query.data.value.picture" :src="query.data.value.picture" alt="The picture on the letterhead" />
    <span v-else class="soft">Over its name stands no picture.</span>
    <input
      ref="chooser"
      type="file"
      accept="image/png,image/jpeg"
      class="hidden"
      aria-label="A picture for the letterhead"
      @change="put($event.target as HTMLInputElement)"
    />
    <button class="act" :disabled="busy" @click="chooser?.click()">
      {{ query.data.value.picture ? 'choose another picture' : 'choose a picture' }}
    </button>
    <button v-if="query.data.value.picture" class="act" :disabled="busy" @click="change(() => ask(api.DELETE(ADDRESS)))">
      take it away
    </button>
    <p v-if="failure" class="call" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.picture {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  margin: 4px 0;
}
img {
  max-width: 220px;
  max-height: 64px;
  /* A picture for white paper stands on white in the dark, too. */
  background: #fff;
  padding: 4px;
  border: 1px solid var(--rule);
}
.hidden {
  display: none;
}
</style>
