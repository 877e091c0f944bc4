<script setup lang="ts">
import Select from 'primevue/select';
import { computed, ref, watch } from 'vue';
import type { Draft } from './draft';
import PreviewCart from './PreviewCart.vue';
import { shownOf, standIns, type StandIn, type StandInLine } from './standIn';

/** What the shopper sees of what is at hand, for a stand-in cart or two side by side. */
const { draft, of } = defineProps<{ draft: Draft; of: string }>();

const changing = ref(false);
const kinds = computed(() => [
  { key: 'field', name: draft.sections.some((s) => s.section.key === of) ? 'this section' : 'this field' },
  { key: 'step', name: 'the whole step' },
]);

const asking = () => draft.fields.find((f) => f.field.key === of)?.asks ?? draft.sections.find((s) => s.section.key === of)?.asks ?? [];

function line(id: string): StandInLine {
  const product = draft.products.find((p) => asking().includes(p.code)) ?? draft.products[0]!;
  return {
    id,
    product: product.code,
    variant: product.variants[0]?.key,
    quantity: product.unit_name && !product.ships ? 2 : 1,
    answers: {},
    units: [],
  };
}

const fresh = (group: string): StandIn => ({ lines: [line('preview')], group, country: 'IE', answers: {} });

// A cart that nobody has changed follows what is at hand, so that it shows it.
watch(
  () => of,
  () => {
    if (!standIns.value.length) standIns.value = [fresh(draft.groups[0]?.key ?? '')];
    const only = standIns.value.length === 1 && standIns.value[0]!.lines.length === 1 ? standIns.value[0]! : undefined;
    if (!changing.value && only && asking().length && !asking().includes(only.lines[0]!.product)) standIns.value = [fresh(only.group)];
  },
  { immediate: true },
);

function second(): void {
  const lines = standIns.value[0]!.lines.map((l) => ({ ...l, answers: {}, units: [] }));
  standIns.value = [...standIns.value, { ...fresh(draft.groups.at(-1)?.key ?? ''), lines }];
  changing.value = true;
}
</script>

<template>
  <section class="preview" aria-label="What the shopper sees">
    <p class="small soft preview-head">
      {{ standIns.length === 2 ? 'Shown to two carts' : 'Shown to a cart' }}:
      <Select
        v-model="shownOf"
        class="words"
        :options="kinds"
        option-label="name"
        option-value="key"
        aria-label="How much of the form is shown"
      />
      <span class="push"></span>
      <button v-if="standIns.length === 1" class="act" @click="second">second cart</button>
      <button v-else class="act" @click="standIns = standIns.slice(0, 1)">one cart</button>
      <button class="act" :aria-expanded="changing" @click="changing = !changing">
        {{ changing ? 'done' : standIns.length === 2 ? 'change them' : 'change it' }}
      </button>
    </p>
    <div class="carts" :class="{ two: standIns.length === 2 }">
      <PreviewCart v-for="(_, i) in standIns" :key="i" v-model="standIns[i]!" :draft="draft" :of="of" :first="i === 0" :open="changing" />
    </div>
  </section>
</template>

<style scoped>
.push {
  flex: 1;
}
.carts {
  display: grid;
  gap: 10px;
}
.carts.two {
  grid-template-columns: repeat(2, minmax(0, 1fr));
}
</style>
