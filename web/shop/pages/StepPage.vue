<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import { useWork } from '../../shared/work';
import { useCheckout } from '../checkout';
import StepQuestions from '../parts/StepQuestions.vue';
import WayOn from '../parts/WayOn.vue';
import { headingOf, pageAfter } from '../steps';
import { say } from '../../shared/wording';

// The shopper fills in here what one step asks, and needs to see how far the way goes.
const { step } = defineProps<{ step: string }>();
const router = useRouter();

const { answers, drafts, lines, evaluation, problems, failure: lost, save, letGo } = useCheckout('cart', () => [step]);
const { busy, failure, run } = useWork();
const showAll = ref(false);
const questions = useTemplateRef('questions');
const here = computed(() => evaluation.value?.steps.find((s) => s.key === step));

async function goOn(): Promise<void> {
  await run(async () => {
    await save();
    showAll.value = true;
    if (problems.value.length > 0) {
      await nextTick();
      questions.value?.focusFirstProblem();
    } else {
      letGo();
      await router.push(pageAfter(evaluation.value!, step));
    }
  });
}
</script>

<template>
  <div :key="step" class="sheet narrow">
    <p v-if="!lines.length || !evaluation">
      {{ say('shop.cart_empty') }} <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
    </p>
    <template v-else>
      <h1>{{ here ? headingOf(here) : say('shop.no_such_step') }}</h1>
      <form novalidate @submit.prevent="goOn">
        <StepQuestions
          ref="questions"
          v-model:answers="answers"
          v-model:drafts="drafts"
          :evaluation="evaluation"
          :lines="lines"
          :step="step"
          :show-all="showAll"
        />
        <p v-if="failure || lost" class="problem" role="alert">{{ failure || lost }}</p>
        <p class="on">
          <button class="buy" :disabled="busy">{{ say('shop.go_on') }}</button>
          <span>{{ say('price.total') }} {{ evaluation.prices.total }}</span>
        </p>
        <WayOn :here="step" :evaluation="evaluation" />
      </form>
    </template>
  </div>
</template>

<style scoped>
.on {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 0.6rem 1.5rem;
}
</style>
