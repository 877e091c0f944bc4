<script setup lang="ts">
import type { Schemas } from '../../shared/api/client';
import AmountInput from './AmountInput.vue';
import type { Draft } from './draft';
import WordInput from './WordInput.vue';

/** What a price comes to: an amount or a share, with bands and an end where there are some. */
const { price, draft, whom } = defineProps<{ price: Schemas['Price']; draft: Draft; whom: string }>();
const tariff = defineModel<Schemas['Tariff']>({ required: true });

const bands = () => tariff.value.bands ?? [];
const isCounted = () => !['answer', 'amount'].includes(price.by!);
const set = (part: Partial<Schemas['Tariff']>) => (tariff.value = { ...tariff.value, ...part });
const setBand = (at: number, part: Partial<Schemas['PriceBand']>) =>
  set({ bands: bands().map((b, i) => (i === at ? { ...b, ...part } : b)) });

function addBand(): void {
  const last = bands().at(-1);
  set({ bands: [...bands(), { over: (last?.over ?? price.included ?? 0) + 10, minor: last?.minor ?? tariff.value.minor ?? 0 }] });
}

function setOver(at: number, typed: string): void {
  const over = Number(typed.replace(',', '.'));
  if (Number.isFinite(over) && over >= 0) setBand(at, { over });
}
</script>

<template>
  <template v-if="price.by === 'amount'">the amount answered</template>
  <AmountInput
    v-else-if="price.kind === 'percent'"
    share
    :value="tariff.ppm ?? 0"
    :money="draft.money"
    :label="`Share of the price${whom}`"
    @save="set({ ppm: $event })"
  />
  <AmountInput v-else :value="tariff.minor ?? 0" :money="draft.money" :label="`Amount${whom}`" @save="set({ minor: $event })" />
  <slot /><template v-for="(band, i) in bands()" :key="i"
    >,
    <AmountInput :value="band.minor" :money="draft.money" :label="`Amount of band ${i + 1}${whom}`" @save="setBand(i, { minor: $event })" />
    over
    <WordInput :value="String(band.over)" :label="`Where band ${i + 1} begins${whom}`" numeric @save="setOver(i, $event)" />
    <button
      class="act small out"
      :aria-label="`Take away band ${i + 1}${whom}`"
      title="take away"
      @click="set({ bands: bands().filter((_, at) => at !== i) })"
    >
      ×
    </button></template
  ><slot name="bands" /><template v-if="typeof tariff.ceiling_minor === 'number'"
    >, at most
    <AmountInput :value="tariff.ceiling_minor" :money="draft.money" :label="`At most${whom}`" @save="set({ ceiling_minor: $event })" />
    <button class="act small out" :aria-label="`Take away the maximum${whom}`" title="take away" @click="set({ ceiling_minor: null })">
      ×
    </button></template
  >
  <span class="small further">
    <button v-if="isCounted()" class="act" @click="addBand">add a band</button>
    <button
      v-if="typeof tariff.ceiling_minor !== 'number' && (isCounted() || price.by === 'amount' || price.kind === 'percent')"
      class="act"
      @click="set({ ceiling_minor: 1000 })"
    >
      a maximum
    </button>
    <slot name="further" />
  </span>
</template>

<style scoped>
.further {
  display: inline-flex;
  gap: 12px;
  margin-left: 10px;
}
</style>
