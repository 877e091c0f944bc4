<script setup lang="ts">
import { computed } from 'vue';
import { api, ask } from '../../shared/api/client';
import { say, spoken } from '../../shared/wording';

/** The other languages of the shop. The page is loaded anew in the one that is chosen; what was typed is kept. */
const others = computed(() => spoken().languages.filter((l) => l.tag !== spoken().language));

async function choose(language: string): Promise<void> {
  await ask(api.PUT('/api/shop/v1/language', { body: { language } }));
  location.reload();
}
</script>

<template>
  <div v-if="others.length" class="languages" role="group" :aria-label="say('shop.language')">
    <button v-for="other in others" :key="other.tag" type="button" class="plain" :lang="other.tag" @click="choose(other.tag)">
      {{ other.name }}
    </button>
  </div>
</template>
