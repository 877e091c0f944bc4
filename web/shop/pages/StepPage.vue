<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import EntryForm from '../../entry/EntryForm.vue';
import type { Answers } from '../../entry/answers';
import { api, ask, sentenceOf, type Schemas } from '../../shared/api/client';
import { latest } from '../../shared/latest';
import { cart } from '../catalogue';
import StepTrack from '../parts/StepTrack.vue';

const { step } = defineProps<{ step: 'contact' | 'delivery' }>();
const router = useRouter();

const titles = { contact: 'How we reach you', delivery: 'Where it goes' };
const next = { contact: '/checkout/delivery', delivery: '/checkout/payment' };

const answers = ref<Answers>({});
const preview = ref<Schemas['EvaluationView']>();
const showAll = ref(false);
const busy = ref(false);
const failure = ref('');
const form = useTemplateRef('form');

const evaluation = computed(() => preview.value ?? cart.value?.evaluation);
const asked = computed(() => evaluation.value?.asked.filter((a) => a.step === step) ?? []);
const problems = computed(() => evaluation.value?.problems.filter((p) => p.step === step) ?? []);

const evaluate = latest(
  (given: Answers) => ask(api.POST('/api/shop/v1/evaluate', { body: { ...cart.value!.cart, answers: { ...cart.value!.cart.answers, ...given } } })),
  (result) => (preview.value = result),
  (error) => (failure.value = sentenceOf(error)),
);

watch(
  () => step,
  () => {
    answers.value = { ...(cart.value?.cart.answers as Answers) };
    preview.value = undefined;
    showAll.value = false;
  },
  { immediate: true },
);

async function goOn(): Promise<void> {
  busy.value = true;
  failure.value = '';
  try {
    const given = Object.fromEntries(asked.value.map((a) => [a.field, answers.value[a.field] ?? '']));
    cart.value = await ask(api.PUT('/api/shop/v1/cart/answers', { body: { step, answers: given } }));
    preview.value = undefined;
    showAll.value = true;
    if (problems.value.length > 0) {
      await nextTick();
      form.value?.focusFirstProblem();
    } else {
      await router.push(next[step]);
    }
  } catch (error) {
    failure.value = sentenceOf(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="sheet narrow">
    <StepTrack :here="step" />
    <h1>{{ titles[step] }}</h1>
    <p v-if="!cart?.cart.lines?.length">The cart is empty. <RouterLink to="/">See what we grow, make and do</RouterLink></p>
    <form v-else novalidate @submit.prevent="goOn">
      <EntryForm ref="form" :model-value="answers" :asked="asked" :problems="problems" :show-all="showAll" :prefix="step" @update:model-value="((answers = $event), evaluate.soon(answers))" />
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
      <p><button class="buy" :disabled="busy">Go on</button></p>
    </form>
  </div>
</template>
