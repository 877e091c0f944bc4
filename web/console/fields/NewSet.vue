<script setup lang="ts">
import Button from 'primevue/button';
import { computed, ref } from 'vue';
import { sentenceOf, type Schemas } from '../../shared/api/client';
import type { Draft } from './draft';
import { levelWords, useDraft } from './draft';
import ScopeChoice from './ScopeChoice.vue';

/** A starter set: the manager decides whether to begin with it and of which products, and sees what it would ask. */
const { draft, of, askedOf } = defineProps<{ draft: Draft; of: string; askedOf?: Schemas['ProductScope'] }>();
const emit = defineEmits<{ added: [key: string]; cancel: [] }>();
const { addSet } = useDraft();

const set = computed(() => draft.starter_sets.find((s) => s.key === of)!);
const scope = ref<Parameters<typeof addSet>[0]['asked_of']>(askedOf ?? { all: false, products: [] });
const failure = ref('');
const busy = ref(false);

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = '';
  try {
    emit('added', await addSet({ set: of, asked_of: set.value.level === 'order' ? null : scope.value }));
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <form :aria-label="`The starter set ${set.name}`" @submit.prevent="submit" @keydown.esc="emit('cancel')">
    <header class="paragraph-head">
      <h2>To begin with: {{ set.name }}</h2>
      <p class="small soft">
        {{ set.line.charAt(0).toUpperCase() + set.line.slice(1) }}. What it puts into the draft are fields like any other: change them, take
        some out, add more.
      </p>
    </header>
    <dl class="clauses">
      <dt>Asks</dt>
      <dd>
        <ul class="ruled">
          <li v-for="label in set.labels" :key="label">{{ label }}</li>
        </ul>
      </dd>
      <dt>Of whom</dt>
      <dd>
        once for {{ levelWords[set.level]
        }}<template v-if="set.level !== 'order'"> of <ScopeChoice v-model="scope!" :draft="draft" /></template>
      </dd>
    </dl>
    <p v-if="failure" class="call say" role="alert">{{ failure }}</p>
    <p class="say">
      <Button class="button main" type="submit" :disabled="busy">Put it into the draft</Button>
      <button class="act" type="button" @click="emit('cancel')">Leave it</button>
    </p>
  </form>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
.say {
  margin: 10px var(--edge);
  display: flex;
  gap: 16px;
}
</style>
