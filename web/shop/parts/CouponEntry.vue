<script setup lang="ts">
import { computed, ref } from 'vue';
import { useWork } from '../../shared/work';
import { useCart } from '../cart';
import { said } from '../catalogue';
import { say } from '../../shared/wording';

/** A coupon for the cart: given here, and taken out again. */
const basket = useCart('cart');
const { busy, failure, run } = useWork();

const code = ref('');
const given = computed(() => basket.view.value?.cart.coupon ?? '');

async function give(next: string, told: string): Promise<void> {
  if (!next && !given.value) return;
  await run(async () => {
    await basket.coupon(next);
    code.value = '';
    said.value = told;
  });
}
</script>

<template>
  <p v-if="given" class="coupon">
    {{ say('shop.coupon') }} {{ given }}
    <button class="plain" type="button" :disabled="busy" @click="give('', say('shop.coupon_out'))">
      {{ say('shop.coupon_take_out') }}
    </button>
  </p>
  <div v-else class="coupon">
    <label for="coupon">{{ say('shop.coupon') }}</label>
    <input
      id="coupon"
      v-model="code"
      autocomplete="off"
      maxlength="40"
      :aria-invalid="!!failure || undefined"
      aria-describedby="coupon-problem"
      @keydown.enter.prevent="give(code, say('shop.coupon_counts'))"
    />
    <button class="plain" type="button" :disabled="busy" @click="give(code, say('shop.coupon_counts'))">
      {{ say('shop.coupon_use') }}
    </button>
    <p id="coupon-problem" class="problem" role="alert">{{ failure }}</p>
  </div>
</template>

<style scoped>
.coupon {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.3rem 0.8rem;
  margin: 1rem 0 0;
}
input {
  width: 12rem;
  min-height: 2.4rem;
  padding: 0.35rem 0.6rem;
  font: inherit;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
}
.problem {
  flex-basis: 100%;
  margin: 0;
}
</style>
