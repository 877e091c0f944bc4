<script setup lang="ts">
import Select from 'primevue/select';
import { computed } from 'vue';
import type { Schemas } from '../../shared/api/client';
import { useDraft, type Draft } from './draft';
import PickSeveral from '../parts/PickSeveral.vue';

/** The quick ways: of every product, or of categories, tags and products listed; and of which shoppers. */
type Scope = Schemas['ProductScope'];

const { draft } = defineProps<{ draft: Draft }>();
const scope = defineModel<Scope>({ required: true });

const { lookFor } = useDraft();

const EVERY = 'every product';
const LISTED = 'these';
const kinds = { c: 'categories', t: 'tags', p: 'products' } as const;

const options = computed(() => [
  {
    name: 'Whole categories',
    items: draft.categories.map((c) => ({ key: `c:${c.name}`, name: `all ${c.name}` })),
  },
  { name: 'Tags', items: draft.tags.map((t) => ({ key: `t:${t}`, name: `tagged ${t}` })) },
  { name: 'Products', items: draft.products.map((p) => ({ key: `p:${p.code}`, name: p.name })) },
]);
const picked = computed({
  get: () => Object.entries(kinds).flatMap(([short, kind]) => (scope.value[kind] ?? []).map((v) => `${short}:${v}`)),
  set: (keys: string[]) => {
    const of = (short: string) => keys.filter((k) => k.startsWith(`${short}:`)).map((k) => k.slice(2));
    scope.value = { all: false, categories: of('c'), tags: of('t'), products: of('p'), groups: scope.value.groups ?? [] };
  },
});
const said = computed(() => {
  const names = picked.value.map((key) => options.value.flatMap((g) => g.items).find((i) => i.key === key)?.name ?? key.slice(2));
  return names.length > 2 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more` : names.join(' and ');
});
const setAll = (choice: string) => (scope.value = { all: choice === EVERY, groups: scope.value.groups ?? [] });
const setGroups = (groups: string[]) => (scope.value = { ...scope.value, groups });
const saidGroups = computed(() =>
  draft.groups
    .filter((g) => scope.value.groups?.includes(g.key))
    .map((g) => g.name.toLowerCase())
    .join(' and '),
);
</script>

<template>
  <Select
    class="words"
    :model-value="scope.all ? EVERY : LISTED"
    :options="[EVERY, LISTED]"
    aria-label="Of which products"
    @update:model-value="setAll"
  />
  <template v-if="!scope.all"
    >:
    <PickSeveral
      :value="picked"
      :options="options"
      option-value="key"
      option-group-label="name"
      option-group-children="items"
      filter
      placeholder="choose"
      scroll-height="320px"
      aria-label="Products"
      @filter="lookFor($event.value)"
      @save="picked = $event"
      ><template #value="{ placeholder }">{{ picked.length ? said : placeholder }}</template></PickSeveral
    ></template
  >, of
  <PickSeveral
    :value="scope.groups ?? []"
    :options="draft.groups"
    option-value="key"
    placeholder="every shopper"
    aria-label="Of which shoppers"
    @save="setGroups"
    ><template #value="{ placeholder }">{{ saidGroups || placeholder }}</template></PickSeveral
  >
</template>
