<script setup lang="ts">
import { computed, ref } from 'vue';
import type { Draft } from './draft';
import PreviewCart from './PreviewCart.vue';
import type { StandIn } from './standIn';

/** What the page of a product asks, all of it in the shopper's order, for a stand-in cart of that product. */
const { draft, product } = defineProps<{ draft: Draft; product: Draft['products'][number] }>();

const PAGE = 'product_page';
const open = ref(false);
const standIn = ref<StandIn>({
  lines: [
    {
      id: 'preview',
      product: product.code,
      variant: product.variants[0]?.key,
      quantity: product.unit_name && !product.ships ? 2 : 1,
      answers: {},
      units: [],
    },
  ],
  group: draft.groups[0]?.key ?? '',
  country: 'IE',
  answers: {},
});
// Its conditions are explained of what its page asks first.
const of = computed(
  () => draft.fields.find((f) => f.field.level !== 'order' && f.asks.includes(product.code))?.field.key ?? draft.fields[0]!.field.key,
);
</script>

<template>
  <section class="preview" aria-label="What the shopper sees">
    <p class="small soft preview-head">
      All that its page asks
      <span class="push"></span>
      <button class="act" :aria-expanded="open" @click="open = !open">{{ open ? 'done' : 'change the cart' }}</button>
    </p>
    <PreviewCart v-model="standIn" :draft="draft" :of="of" :step="PAGE" first :open="open" />
  </section>
</template>

<style scoped>
.push {
  flex: 1;
}
</style>
