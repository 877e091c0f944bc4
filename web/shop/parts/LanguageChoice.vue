<script setup lang="ts">
import { computed } from 'vue';
import { api, ask } from '../../shared/api/client';
import { say, spoken } from '../../shared/wording';
import { useWork } from '../../shared/work';

/** The other languages of the shop. The page is loaded anew in the one that is chosen; what was typed is kept. */
const others = computed(() => spoken().languages.filter((l) => l.tag !== spoken().language));

const { failure, run } = useWork();

async function choose(language: string): Promise<void> {
  if (await run(() => ask(api.PUT('/api/shop/v1/language', { body: { language } })).then(() => true))) location.reload();
}
</script>

<template>
  <div v-if="others.length" class="languages" role="group" :aria-label="say('shop.language')">
    <button v-for="other in others" :key="other.tag" type="button" class="plain" :lang="other.tag" @click="choose(other.tag)">
      {{ other.name }}
    </button>
    <span v-if="failure" class="problem" role="alert">{{ failure }}</span>
  </div>
</template>
