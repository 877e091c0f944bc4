<script setup lang="ts">
import { onMounted, ref } from 'vue';
import { api, ask, type Schemas } from '../../shared/api/client';
import { useWork } from '../../shared/work';
import { say } from '../../shared/wording';

/** One paper of an order, for whoever got a link to it. */
const { token } = defineProps<{ token: string }>();
const paper = ref<Schemas['LinkedPaperView']>();
const { failure, run } = useWork();

onMounted(async () => {
  paper.value = await run(() => ask(api.GET('/api/shop/v1/papers/{token}', { params: { path: { token } } })));
});
</script>

<template>
  <div class="sheet narrow">
    <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    <template v-if="paper">
      <h1>{{ paper.title }}</h1>
      <p class="soft">{{ say('shop.from_order', paper.number) }}</p>
      <p v-if="paper.is_ready">
        <a :href="`/api/shop/v1/papers/${token}/file`">{{ say('shop.open_pdf') }}</a>
      </p>
      <p v-else>{{ say('shop.not_ready') }}</p>
    </template>
  </div>
</template>
