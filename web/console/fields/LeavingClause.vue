<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Draft, DraftDestination } from './draft';
import { useDraft } from './draft';
import { nameOf } from './groups';
import { leavings, leavingsOfOne } from './leaving';

/** How lines leave for a destination that takes item codes: all of them, and those of single products or with the components of single fields. */
const { item, draft } = defineProps<{ item: DraftDestination; draft: Draft }>();
const { change, refused, lookFor } = useDraft();

const RULES = 'item-codes';
const products = computed(() => item.destination.products_leave ?? {});
const fields = computed(() => item.destination.fields_leave ?? {});
const nameOfProduct = (code: string) => draft.products.find((p) => p.code === code)?.name ?? code;
const nameOfField = (key: string) => {
  const field = draft.fields.find((f) => f.field.key === key);
  return field ? nameOf(field) : key;
};
const apart = computed(() => [
  ...Object.entries(products.value).map(([code, leaving]) => ({ path: `leaves.products.${code}`, name: nameOfProduct(code), leaving })),
  ...Object.entries(fields.value).map(([key, leaving]) => ({
    path: `leaves.fields.${key}`,
    name: `what “${nameOfField(key)}” uses`,
    leaving,
  })),
]);
const others = computed(() =>
  [
    {
      name: 'products',
      among: draft.products.filter((p) => !products.value[p.code]).map((p) => ({ path: `leaves.products.${p.code}`, name: p.name })),
    },
    {
      name: 'what a field uses',
      among: draft.fields
        .filter((f) => f.field.uses?.length && !f.field.retired && !fields.value[f.field.key])
        .map((f) => ({ path: `leaves.fields.${f.field.key}`, name: nameOf(f) })),
    },
  ].filter((group) => group.among.length),
);
const isRefused = (path: string) => refused.value?.field === item.key && refused.value.setting === path;
</script>

<template>
  <div>
    lines leave
    <Select
      class="words"
      :model-value="draft.codes.rules.leaves?.[item.key] ?? null"
      :options="leavingsOfOne"
      :placeholder="leavingsOfOne[0]!.name"
      option-label="name"
      option-value="key"
      :aria-label="`How lines leave for ${item.name}`"
      @update:model-value="change(RULES, `leaves.${item.key}`, $event)"
    />
    <ul v-if="apart.length">
      <li v-for="one in apart" :key="one.path">
        {{ one.name }}
        <Select
          class="words"
          :model-value="one.leaving"
          :options="leavings"
          option-label="name"
          option-value="key"
          :aria-label="`How ${one.name} leaves for ${item.name}`"
          :invalid="isRefused(one.path)"
          @update:model-value="change(item.key, one.path, $event)"
        />
        <button class="act small" :aria-label="`${one.name} leaves as the others`" @click="change(item.key, one.path, null)">
          as the others
        </button>
      </li>
    </ul>
    <Select
      v-if="others.length"
      class="words"
      :model-value="null"
      :options="others"
      option-group-label="name"
      option-group-children="among"
      option-label="name"
      option-value="path"
      placeholder="but for one product or field"
      :aria-label="`A product or field whose lines leave otherwise for ${item.name}`"
      filter
      @filter="lookFor($event.value)"
      @update:model-value="change(item.key, $event, 'beside')"
    />
    <p v-if="refused?.field === item.key && refused.setting.startsWith('leaves.')" class="call" role="alert">{{ refused.sentence }}</p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0 0 0 18px;
}
</style>
