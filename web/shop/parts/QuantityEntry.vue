<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import UnitsToDrop from '../../entry/UnitsToDrop.vue';
import { allUnits, toldUnits, type Evaluated, type Unit } from '../../entry/answers';
import { say } from '../../shared/wording';

/** How many; where each one is asked and the number falls, which of them go. A number counts once it is settled: by Enter, by leaving, by the arrows. */
const { id, evaluation, line } = defineProps<{ id: string; evaluation?: Evaluated; line: string }>();
const quantity = defineModel<number>({ required: true });
const units = defineModel<Unit[]>('units', { default: () => [] });

const wanted = ref<number>();
// What is being typed stands by itself until it is settled: a reply that comes meanwhile draws the page anew, and must not take a digit back.
const typed = ref<number | string>(quantity.value);
watch([quantity, wanted], () => (typed.value = wanted.value ?? quantity.value));
const shown = computed(() => toldUnits(evaluation, line, units.value));
const most = computed(() => evaluation?.most_each.find((m) => m.line_id === line)?.most);
const problem = computed(() => evaluation?.problems.find((p) => p.line_id === line && p.code === 'too_many_each'));

function settle(): void {
  const value = Math.trunc(Number(typed.value));
  wanted.value = undefined;
  if (value >= 1 && value <= 999) {
    if (shown.value.length > value) wanted.value = value;
    else quantity.value = value;
  }
  typed.value = wanted.value ?? quantity.value;
}

function keep(left: string[]): void {
  units.value = allUnits(evaluation, line, units.value).filter((u) => left.includes(u.id));
  quantity.value = wanted.value!;
  wanted.value = undefined;
}

/** True when the number is settled; else the question which ones go has the focus. */
function isSettled(): boolean {
  if (wanted.value === undefined) return true;
  document.getElementById(`${id}-drop`)?.focus();
  return false;
}

defineExpose({ isSettled });
</script>

<template>
  <div>
    <div class="quantity">
      <label :for="id">{{ say('shop.how_many') }}</label>
      <input
        :id="id"
        v-model="typed"
        type="number"
        inputmode="numeric"
        min="1"
        :max="most ?? 999"
        step="1"
        :aria-invalid="!!problem || undefined"
        :aria-describedby="[problem && `${id}-problem`, most && `${id}-most`].filter(Boolean).join(' ') || undefined"
        @change="settle"
        @keydown.enter.prevent="settle"
      />
      <span v-if="most" :id="`${id}-most`" class="soft most">{{ say('shop.at_most', most) }}</span>
    </div>
    <p v-if="problem" :id="`${id}-problem`" class="problem" role="alert">{{ problem.sentence }}</p>
    <UnitsToDrop
      v-if="wanted"
      :id="`${id}-drop`"
      :key="wanted"
      :units="shown"
      :quantity="wanted"
      @keep="keep"
      @cancel="wanted = undefined"
    />
  </div>
</template>

<style scoped>
.quantity {
  display: flex;
  align-items: center;
  gap: 0.8rem;
  font-weight: 600;
}
.most {
  font-weight: 400;
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
