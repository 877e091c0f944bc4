<script setup lang="ts">
import { computed, ref } from 'vue';
import UnitsToDrop from '../../entry/UnitsToDrop.vue';
import type { Unit } from '../../entry/answers';

/** How many; where each one is asked and the number falls, which of them go. */
const { id, names = [] } = defineProps<{ id: string; names?: { id: string; name: string }[] }>();
const quantity = defineModel<number>({ required: true });
const units = defineModel<Unit[]>('units', { default: () => [] });

const wanted = ref<number>();
// The ones that the form shows now, with what was filled in for each.
const shown = computed(() => names.map((n) => units.value.find((u) => u.id === n.id) ?? { id: n.id, answers: {} }));

function take(event: Event): void {
  const value = Math.trunc(Number((event.target as HTMLInputElement).value));
  wanted.value = undefined;
  if (!(value >= 1 && value <= 999)) return;
  if (shown.value.length > value) wanted.value = value;
  else quantity.value = value;
}

function keep(left: Unit[]): void {
  units.value = left;
  quantity.value = wanted.value!;
  wanted.value = undefined;
}
</script>

<template>
  <div>
    <div class="quantity">
      <label :for="id">How many</label>
      <input :id="id" type="number" inputmode="numeric" min="1" max="999" step="1" :value="wanted ?? quantity" @input="take" @blur="($event.target as HTMLInputElement).value = String(wanted ?? quantity)" />
    </div>
    <UnitsToDrop v-if="wanted" :key="wanted" :units="shown" :names="names" :quantity="wanted" @keep="keep" @cancel="wanted = undefined" />
  </div>
</template>

<style scoped>
.quantity {
  display: flex;
  align-items: center;
  gap: 0.8rem;
  font-weight: 600;
}
input[type='number'] {
  width: 6rem;
  min-height: 2.6rem;
  padding: 0.4rem 0.6rem;
  font: inherit;
  font-weight: 400;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
}
</style>
