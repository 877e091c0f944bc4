<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import PriceSum from '../../entry/PriceSum.vue';
import { useWork } from '../../shared/work';
import { useCart } from '../cart';
import { nameOf } from '../catalogue';
import { useCheckout } from '../checkout';
import StepQuestions from '../parts/StepQuestions.vue';
import { headingOf, stepsOf } from '../steps';
import { say } from '../../shared/wording';

// Bought at once, cart and contact are skipped as pages; what they would have asked is asked here, before payment.
const router = useRouter();
const all = useCart('at_once').view.value?.evaluation.steps.map((s) => s.key) ?? [];
const {
  answers,
  drafts,
  lines,
  evaluation,
  problems,
  failure: lost,
  save,
  letGo,
} = useCheckout('at_once', () => all.filter((s) => s !== 'product_page' && s !== 'payment'));
const { busy, failure, run } = useWork();
const showAll = ref(false);
const questions = useTemplateRef<InstanceType<typeof StepQuestions>[]>('questions');
const steps = computed(() => (evaluation.value ? stepsOf(evaluation.value).filter((s) => s.key !== 'payment' && s.asks) : []));

async function goOn(): Promise<void> {
  await run(async () => {
    await save();
    showAll.value = true;
    if (problems.value.length > 0) {
      await nextTick();
      questions.value?.some((q) => q.focusFirstProblem());
    } else {
      letGo();
      await router.push('/at-once/payment');
    }
  });
}
</script>

<template>
  <div class="sheet narrow">
    <h1>{{ say('shop.buy_at_once') }}</h1>
    <p v-if="!lines.length || !evaluation">
      {{ say('shop.nothing_chosen') }} <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
    </p>
    <form v-else novalidate @submit.prevent="goOn">
      <p>
        <RouterLink v-for="line in lines" :key="line.id" :to="`/products/${line.product_code}`"
          >{{ line.quantity }} × {{ nameOf(line) }}</RouterLink
        >
      </p>
      <section v-for="step in steps" :key="step.key">
        <h2>{{ step.key === 'cart' ? say('shop.with_order') : headingOf(step) }}</h2>
        <StepQuestions
          ref="questions"
          v-model:answers="answers"
          v-model:drafts="drafts"
          :evaluation="evaluation"
          :lines="lines"
          :step="step.key"
          :show-all="showAll"
          :level="3"
        />
      </section>
      <PriceSum :prices="evaluation.prices" :units="evaluation.units" />
      <p v-if="failure || lost" class="problem" role="alert">{{ failure || lost }}</p>
      <p>
        <button class="buy" :disabled="busy">{{ say('shop.go_on_to_payment') }}</button>
      </p>
    </form>
  </div>
</template>

<style scoped>
section {
  margin: 1.5rem 0;
}
</style>
