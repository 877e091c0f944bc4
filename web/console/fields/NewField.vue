<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { onMounted, ref, useTemplateRef } from 'vue';
import { api, ApiError, ask, sentenceOf } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import type { Draft } from './draft';
import { useDraft } from './draft';
import ProductChoice from './ProductChoice.vue';

const { draft } = defineProps<{ draft: Draft }>();
const emit = defineEmits<{ added: [key: string]; cancel: [] }>();
const { add } = useDraft();

const TYPE = 'line_text';
const label = ref('');
const key = ref('');
const keyTyped = ref(false);
const products = ref<string[]>([]);
const failure = ref<{ setting: string; sentence: string }>();
const busy = ref(false);
const root = useTemplateRef<HTMLElement>('root');

const typeName = draft.types.find((t) => t.key === TYPE)?.name;
const propose = latest(
  (text: string) => ask(api.GET('/api/console/v1/draft/proposed-key', { params: { query: { label: text } } })),
  (proposed) => {
    if (!keyTyped.value) key.value = proposed.key;
  },
  (error) => (failure.value = { setting: 'key', sentence: sentenceOf(error) }),
);

function onLabel(text: string | undefined): void {
  label.value = text ?? '';
  if (!keyTyped.value && label.value.trim()) propose.soon(label.value);
}

async function submit(): Promise<void> {
  busy.value = true;
  failure.value = undefined;
  try {
    const field = await add({ label: label.value, key: key.value, type: TYPE, products: products.value });
    emit('added', field.field.key);
  } catch (error) {
    failure.value = { setting: (error instanceof ApiError && error.problem.setting) || '', sentence: sentenceOf(error) };
  } finally {
    busy.value = false;
  }
}

const isWrong = (setting: string) => failure.value?.setting.startsWith(setting) || undefined;
onMounted(() => root.value?.querySelector('input')?.focus());
</script>

<template>
  <form ref="root" aria-label="A new field" @submit.prevent="submit" @keydown.esc="emit('cancel')">
    <header class="paragraph-head">
      <h2>A new field</h2>
      <p class="small soft">It goes everywhere at first; switch off where it should not go.</p>
    </header>
    <dl class="clauses">
      <dt>Asks</dt>
      <dd>
        for {{ typeName }}: “<InputText id="new-label" class="words wide" :model-value="label" aria-label="Label" placeholder="what the shopper is asked" autocomplete="off" :aria-invalid="isWrong('label')" @update:model-value="onLabel" />”
      </dd>
      <dt>Key</dt>
      <dd>
        <InputText v-model="key" class="words mono" aria-label="Key" autocomplete="off" :aria-invalid="isWrong('key')" @input="keyTyped = true" />
        <span class="small soft"> never changes once published</span>
      </dd>
      <dt>Of whom</dt>
      <dd>once for every line of <ProductChoice v-model="products" :products="draft.products" />, on the product page</dd>
    </dl>
    <p v-if="failure" class="call say" role="alert">{{ failure.sentence }}</p>
    <p class="say">
      <Button class="button main" type="submit" :disabled="busy || !label.trim()">Add it to the draft</Button>
      <button class="act" type="button" @click="emit('cancel')">Leave it</button>
    </p>
  </form>
</template>

<style scoped>
.wide {
  min-width: 200px;
}
.say {
  margin: 10px var(--edge);
  display: flex;
  gap: 16px;
}
</style>
