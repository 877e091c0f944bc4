<script setup lang="ts">
import MultiSelect from 'primevue/multiselect';
import { computed } from 'vue';
import type { Draft } from './draft';

/** Of which products a field is asked. */
const { products } = defineProps<{ products: Draft['products']; invalid?: boolean; id?: string }>();
const codes = defineModel<string[]>({ required: true });

const groups = computed(() =>
  [...new Set(products.map((p) => p.category))].map((category) => ({ category, items: products.filter((p) => p.category === category) })),
);
const said = computed(() => {
  const chosen = products.filter((p) => codes.value.includes(p.code));
  const whole = groups.value.filter((g) => g.items.every((p) => codes.value.includes(p.code)));
  if (chosen.length === products.length) return 'each of the products';
  const rest = chosen.filter((p) => !whole.some((g) => g.category === p.category));
  const names = [...whole.map((g) => `all ${g.category}`), ...rest.map((p) => p.name)];
  return names.length > 2 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more` : names.join(' and ');
});
</script>

<template>
  <MultiSelect
    v-model="codes"
    class="words"
    :options="groups"
    option-label="name"
    option-value="code"
    option-group-label="category"
    option-group-children="items"
    :show-toggle-all="false"
    placeholder="choose products"
    scroll-height="320px"
    aria-label="Products"
    :input-id="id"
    :invalid="invalid"
  >
    <template #value="{ placeholder }">{{ codes.length ? said : placeholder }}</template>
  </MultiSelect>
</template>
