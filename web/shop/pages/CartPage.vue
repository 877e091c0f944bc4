<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import EntryForm from '../../entry/EntryForm.vue';
import PriceSum from '../../entry/PriceSum.vue';
import { useWork } from '../../shared/work';
import { useCheckout } from '../checkout';
import type { DrawnLine } from '../typed';
import CartLine from '../parts/CartLine.vue';
import CouponEntry from '../parts/CouponEntry.vue';
import WayOn from '../parts/WayOn.vue';
import { pageAfter } from '../steps';
import { say } from '../../shared/wording';

// The shopper decides here what to keep, and answers what is asked once for the whole order.
const router = useRouter();
const { basket, answers, drafts, lines, evaluation, problems, failure: lost, save, letGo } = useCheckout('cart', () => ['cart']);
const { busy, failure, run } = useWork();
const showAll = ref(false);
const form = useTemplateRef('form');

const asked = computed(() => evaluation.value?.asked.filter((a) => a.line_id === null && a.step === 'cart') ?? []);
const orderProblems = computed(() => problems.value.filter((p) => p.line_id === null));
// A line says itself what it lacks, whether it was asked on its product page or here.
const ofLines = computed(
  () => basket.view.value?.evaluation.problems.filter((p) => p.line_id !== null && (!p.field || p.step === 'product_page')) ?? [],
);
const rows = useTemplateRef<InstanceType<typeof CartLine>[]>('rows');

function setDraft(id: string, draft: DrawnLine): void {
  drafts.value = { ...drafts.value, [id]: draft };
}

async function goOn(): Promise<void> {
  await run(async () => {
    await save();
    showAll.value = true;
    if (problems.value.length > 0) {
      await nextTick();
      if (!rows.value?.some((row) => row.focusFirstProblem())) form.value?.focusFirstProblem();
    } else {
      letGo();
      await router.push(pageAfter(evaluation.value!, 'cart'));
    }
  });
}

onMounted(() => run(basket.load));
</script>

<template>
  <div class="sheet narrow">
    <h1>{{ say('shop.step_cart') }}</h1>
    <p v-if="failure || lost" class="problem" role="alert">{{ failure || lost }}</p>
    <form v-if="lines.length && basket.view.value && evaluation" novalidate @submit.prevent="goOn">
      <ul>
        <CartLine
          v-for="line in lines"
          :key="line.id"
          ref="rows"
          :line="line"
          :draft="drafts[line.id]!"
          :evaluation="evaluation"
          :show-all="showAll"
          @update:draft="setDraft(line.id, $event)"
        />
      </ul>
      <EntryForm
        v-if="asked.length || orderProblems.length"
        ref="form"
        v-model="answers"
        class="whole-order"
        :asked="asked"
        :problems="orderProblems"
        :sections="evaluation.sections"
        :show-all="showAll"
        prefix="cart"
      />
      <PriceSum :prices="basket.view.value.evaluation.prices" :units="basket.view.value.evaluation.units" />
      <CouponEntry />
      <p v-if="ofLines.length" class="problem">{{ say('shop.fill_in_above') }}</p>
      <p v-else class="go">
        <button class="buy" :disabled="busy">{{ say('shop.go_on') }}</button>
      </p>
      <WayOn here="cart" :evaluation="evaluation" />
    </form>
    <p v-else-if="!busy && !failure">
      {{ say('shop.cart_empty') }} <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
    </p>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0 0 1.5rem;
  padding: 0;
  border-top: 2px solid var(--shop-bark);
}
.whole-order {
  margin: 0 0 1.8rem;
}
.go {
  margin: 2rem 0 0;
  text-align: right;
}
</style>
