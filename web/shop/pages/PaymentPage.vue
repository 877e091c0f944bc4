<script setup lang="ts">
import { computed, nextTick, onMounted, ref, useTemplateRef } from 'vue';
import { useRouter } from 'vue-router';
import PriceSum from '../../entry/PriceSum.vue';
import { ApiError, sentenceOf } from '../../shared/api/client';
import type { CartKind } from '../cart';
import { catalogue } from '../catalogue';
import { useCheckout } from '../checkout';
import StepQuestions from '../parts/StepQuestions.vue';
import WayOn from '../parts/WayOn.vue';
import { begunOf, pay, testCards, tokenFor } from '../payment';
import { pageOf } from '../steps';
import { say } from '../../shared/wording';

// The shopper decides here how to pay and whether to; what is still missing elsewhere is named with the way there.
const { kind } = defineProps<{ kind: CartKind }>();
const router = useRouter();
const begun = begunOf(kind);
const { basket, answers, drafts, lines, evaluation, problems, save, letGo } = useCheckout(kind, () => ['payment']);

const card = ref('');
const busy = ref(false);
const failure = ref('');
const showAll = ref(false);
const questions = useTemplateRef('questions');

const elsewhere = computed(() => evaluation.value?.problems.filter((p) => p.step !== 'payment') ?? []);
const isFree = computed(() => evaluation.value?.offer.total_minor === 0);
const byCard = computed(() => !isFree.value && (answers.value.payment_method ?? 'card') === 'card');
const wayTo = (step: string) =>
  kind === 'at_once' ? (step === 'product_page' ? `/products/${lines.value[0]?.product_code}` : '/at-once') : pageOf(step);

/** True when nothing asked here stands in the way. */
async function isComplete(): Promise<boolean> {
  await save();
  showAll.value = true;
  await nextTick();
  if (problems.value.length) questions.value?.focusFirstProblem();
  return problems.value.length === 0;
}

async function show(order: string): Promise<void> {
  letGo();
  await basket.load();
  await router.push(`/orders/${order}`);
}

async function submit(): Promise<void> {
  if (busy.value) return;
  busy.value = true;
  failure.value = '';
  try {
    let payment = begun.read();
    if (!payment) {
      // What is shown now is what the shopper agrees to pay.
      const seen = evaluation.value!.offer;
      if (!(await isComplete())) return;
      payment = {
        seen,
        key: crypto.randomUUID(),
        token: byCard.value ? await tokenFor(catalogue.value!.payments_url, card.value) : '',
      };
    }
    begun.write(payment);
    const attempt = await pay(kind, payment);
    begun.clear();
    if (attempt.order_token) await show(attempt.order_token);
    else failure.value = attempt.sentence;
  } catch (error) {
    // After a lost connection the same payment is sent again; after a refusal a new one is made.
    const problem = error instanceof ApiError ? error.problem : undefined;
    if (problem && problem.status !== 0 && problem.status < 500 && problem.status !== 429) begun.clear();
    // It was ordered in another window: here is what was ordered.
    if (problem?.code === 'already_ordered' && problem.order_token) return await show(problem.order_token);
    // Something was changed in the shop or in another window: what it costs now is shown, and asked about first.
    if (problem && ['offer_changed', 'cart_changed', 'cart_has_problems'].includes(problem.code))
      await basket.load().catch(() => undefined);
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}

onMounted(() => {
  if (begun.read()) void submit();
});
</script>

<template>
  <div class="sheet narrow">
    <h1>{{ say('shop.step_payment') }}</h1>
    <template v-if="busy && begun.read() && !card && byCard">
      <p role="status">{{ say('shop.payment_checked') }}</p>
    </template>
    <p v-else-if="!lines.length || !evaluation">
      {{ say('shop.cart_empty') }} <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
    </p>
    <template v-else>
      <ul v-if="elsewhere.length" class="missing">
        <li v-for="problem in elsewhere" :key="`${problem.line_id}${problem.unit_id}${problem.field}`" class="problem">
          {{ problem.sentence }} <RouterLink :to="wayTo(problem.step)">{{ say('shop.go_there') }}</RouterLink>
        </li>
      </ul>
      <PriceSum :prices="evaluation.prices" :units="evaluation.units" />
      <form v-if="!elsewhere.length" novalidate @submit.prevent="submit">
        <StepQuestions
          ref="questions"
          v-model:answers="answers"
          v-model:drafts="drafts"
          :evaluation="evaluation"
          :lines="lines"
          step="payment"
          :show-all="showAll"
        />
        <div v-if="byCard" class="card">
          <label for="card">{{ say('shop.card_number') }}</label>
          <input
            id="card"
            v-model="card"
            inputmode="numeric"
            autocomplete="cc-number"
            required
            :aria-invalid="!!failure || undefined"
            aria-describedby="cards failure"
          />
          <div id="cards" class="soft">
            <p>{{ say('shop.demo_cards') }}</p>
            <ul>
              <li v-for="test in testCards" :key="test.number">
                <button type="button" class="plain" @click="card = test.number">{{ test.number }}</button> {{ say(test.does) }}
              </li>
            </ul>
          </div>
        </div>
        <p v-else-if="isFree">{{ say('shop.nothing_to_pay') }}</p>
        <p v-else>{{ say('shop.by_invoice') }}</p>
        <p id="failure" class="problem" role="alert">{{ failure }}</p>
        <button class="buy" :disabled="busy">
          {{ busy ? say('shop.ordering') : say(byCard ? 'shop.order_and_pay' : 'shop.order_for', evaluation.prices.total) }}
        </button>
        <WayOn v-if="kind === 'cart'" here="payment" :evaluation="evaluation" />
      </form>
    </template>
  </div>
</template>

<style scoped>
form {
  margin-top: 1.5rem;
}
.card {
  margin-top: 1.2rem;
}
.card > label {
  display: block;
  font-weight: 600;
  margin-bottom: 0.2rem;
}
.card > input {
  width: min(100%, 20rem);
  min-height: 2.6rem;
  padding: 0.45rem 0.65rem;
  font: inherit;
  border: 1.5px solid var(--shop-line);
  border-radius: 4px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
.missing {
  margin-bottom: 1.5rem;
}
#cards p {
  margin: 0.8rem 0 0;
}
#failure {
  min-height: 1.5em;
}
</style>
