<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef } from 'vue';
import LineForm from '../../entry/LineForm.vue';
import type { Evaluated, Unit } from '../../entry/answers';
import { withBoxesLeft } from '../../entry/boxes';
import { ApiError, sentenceOf, type Schemas } from '../../shared/api/client';
import { kept } from '../../shared/kept';
import { latest } from '../../shared/latest';
import { useWork } from '../../shared/work';
import { evaluateCart, useCart } from '../cart';
import { nameOf, productOf, said } from '../catalogue';
import { nothingTyped, overlaid, takeTyped, unitsOf, type DrawnLine, type TypedLine } from '../typed';
import QuantityEntry from './QuantityEntry.vue';
import ToldAnswers from './ToldAnswers.vue';
import { say } from '../../shared/wording';

// What is asked at the cart is answered here at once; what was answered before is told, and can be changed.
const {
  line,
  draft,
  evaluation: ofCart,
  showAll: showAllHere,
} = defineProps<{
  line: Schemas['CartLine'];
  /** What this line is answered at the cart. */
  draft: DrawnLine;
  evaluation: Evaluated;
  showAll: boolean;
}>();
const emit = defineEmits<{ 'update:draft': [draft: DrawnLine] }>();
const basket = useCart('cart');
const STEP = 'product_page',
  HERE = 'cart';

interface Change extends TypedLine {
  /** How many, once that was changed. */
  quantity?: number | undefined;
  /** Which of them go. */
  gone: string[];
}

// A change that was begun is kept like everything that is typed: it is laid over the line, which another window may change meanwhile.
const { value: change, letGo } = kept<Change | null>(`edit:${line.id}`, () => null);
const changed = computed(() => {
  const { quantity = line.quantity, gone = [] } = change.value ?? {};
  const units = line.units?.filter((u) => !gone.includes(u.id));
  return { quantity, ...overlaid({ ...line, quantity, units }, change.value ?? undefined) };
});
const preview = ref<Evaluated>();
const showAll = ref(false);
const { busy, failure, run } = useWork();
const form = useTemplateRef('form');
const hereForm = useTemplateRef('hereForm');
const quantityEntry = useTemplateRef('quantityEntry');

const cart = computed(() => basket.view.value);
const product = computed(() => productOf(line.product_code));
const sum = computed(() => cart.value?.evaluation.prices.lines.find((l) => l.line_id === line.id)?.sum);
const code = computed(() => evaluation.value?.codes.find((c) => c.line_id === line.id)?.code);
const names = computed(() => cart.value?.evaluation.units.filter((u) => u.line_id === line.id) ?? []);
const here = (all: Schemas['ProblemView'][] | undefined) =>
  all?.filter((p) => p.line_id === line.id && (!p.field || p.step === STEP)) ?? [];
const problems = computed(() => here(cart.value?.evaluation.problems));
// Two seats without a name are one thing to say.
const sentences = computed(() => [...new Set(problems.value.map((p) => p.sentence))]);
const evaluation = computed(() => preview.value ?? cart.value?.evaluation);
const askedHere = computed(() => ofCart.asked.filter((a) => a.line_id === line.id && a.step === HERE));
const told = computed(
  () =>
    cart.value?.entries.filter(
      (e) => !askedHere.value.some((a) => e.line_id === line.id && a.unit_id === (e.unit_id ?? null) && e.slot.endsWith(`/${a.field}`)),
    ) ?? [],
);

const evaluate = latest(
  () => {
    const lines = cart.value!.cart.lines!.map((l) => (l.id === line.id && change.value ? { ...l, ...changed.value } : l));
    return evaluateCart({ ...cart.value!.cart, lines });
  },
  (result) => {
    preview.value = result;
    failure.value = '';
  },
  (error) => (failure.value = sentenceOf(error)),
);
if (change.value) void evaluate.now(undefined);

async function begin(): Promise<void> {
  change.value = { ...nothingTyped(), gone: [] };
  preview.value = undefined;
  showAll.value = problems.value.length > 0;
  await nextTick();
  form.value?.focusFirstProblem();
}

function end(): void {
  change.value = null;
  letGo();
}

function type(part: Partial<DrawnLine>): void {
  takeTyped(change.value!, changed.value, { ...changed.value, ...part });
  evaluate.soon(undefined);
}

function resize(quantity: number): void {
  change.value!.quantity = quantity;
  evaluate.soon(undefined);
}

// One that comes new after another went gets a number of its own.
function keepOnly(units: Unit[]): void {
  const going = changed.value.units.map((u) => u.id).filter((id) => !units.some((u) => u.id === id));
  change.value!.gone.push(...going);
  for (const id of going) delete change.value!.units[id];
}

// Says no for every box of this change without a tick, which may bring further questions; whether there was one.
function leaveBoxes(): boolean {
  const asked = evaluation.value?.asked.filter((a) => a.line_id === line.id && a.step === STEP) ?? [];
  const now = withBoxesLeft(asked, changed.value);
  return !!now && takeTyped(change.value!, changed.value, now);
}

// Another window may have added some meanwhile: which go is said among all that there are.
async function askAgain(): Promise<void> {
  change.value = { ...change.value!, quantity: undefined, gone: [] };
  preview.value = undefined;
  await basket.load();
}

async function save(): Promise<void> {
  if (!quantityEntry.value?.isSettled()) return;
  await run(async () => {
    do await evaluate.now(undefined);
    while (!failure.value && leaveBoxes());
    if (failure.value || !change.value) return;
    showAll.value = true;
    if (here(preview.value?.problems).length > 0) {
      await nextTick();
      form.value?.focusFirstProblem();
      return;
    }
    const { quantity, gone, answers } = change.value;
    try {
      await basket.change(line.id, { quantity, gone, answers, units: unitsOf(change.value) });
    } catch (error) {
      if (quantity !== undefined && error instanceof ApiError && error.problem.code === 'cart_refused') await askAgain();
      throw error;
    }
    end();
    said.value = say('shop.changed');
  });
}

async function remove(): Promise<void> {
  await run(async () => {
    await basket.change(line.id, { quantity: 0 });
    letGo();
    said.value = say('shop.taken_out', product.value?.name);
  });
}

/** Puts the focus on the first control with a problem; false when there is none here. */
const focusFirstProblem = (): boolean => !!hereForm.value?.focusFirstProblem();

defineExpose({ focusFirstProblem });
</script>

<template>
  <li>
    <img v-if="product?.picture" :src="`/pictures/${product.picture}`" :alt="product.picture_words" width="120" height="76" />
    <div>
      <h2>{{ line.quantity }} × {{ nameOf(line) }}</h2>
      <p v-if="code" class="soft">{{ say('shop.item', code) }}</p>
      <template v-if="!change">
        <ToldAnswers :entries="told" :line="line.id" :units="names" />
        <p v-for="sentence in sentences" :key="sentence" class="problem">{{ sentence }}</p>
        <button class="plain" type="button" @click="begin">
          {{ say('shop.change') }}<span class="visually-hidden"> {{ nameOf(line) }}</span>
        </button>
        <button class="plain" type="button" :disabled="busy" @click="remove">
          {{ say('shop.take_out') }}<span class="visually-hidden"> {{ nameOf(line) }}</span>
        </button>
      </template>
      <div v-else-if="evaluation" role="group" :aria-label="`${say('shop.change')} ${nameOf(line)}`">
        <QuantityEntry
          :id="`${line.id}-quantity`"
          ref="quantityEntry"
          :model-value="changed.quantity"
          :units="changed.units"
          class="many"
          :evaluation="evaluation"
          :line="line.id"
          @update:model-value="resize"
          @update:units="keepOnly"
        />
        <LineForm
          ref="form"
          :answers="changed.answers"
          :units="changed.units"
          :evaluation="evaluation"
          :line="line.id"
          :step="STEP"
          :show-all="showAll"
          :prefix="line.id"
          :level="3"
          @update:answers="type({ answers: $event })"
          @update:units="type({ units: $event })"
        />
        <p class="do">
          <button class="buy" type="button" :disabled="busy" @click="save">{{ say('shop.keep_change') }}</button>
          <button class="plain back" type="button" @click="end">{{ say('shop.leave_as_was') }}</button>
        </p>
      </div>
      <LineForm
        v-if="askedHere.length"
        ref="hereForm"
        :answers="draft.answers"
        :units="draft.units"
        :evaluation="ofCart"
        :line="line.id"
        :step="HERE"
        :show-all="showAllHere"
        :level="3"
        :prefix="`here-${line.id}`"
        @update:answers="emit('update:draft', { ...draft, answers: $event })"
        @update:units="emit('update:draft', { ...draft, units: $event })"
      />
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
    </div>
    <p class="price">{{ sum }}</p>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 120px minmax(0, 1fr) auto;
  gap: 1.2rem;
  border-bottom: 1px solid var(--shop-rule);
  padding: 1rem 0;
}
h2 {
  font-size: 1.05rem;
}
img {
  background: var(--shop-wash);
}
.plain + .plain,
.back {
  margin-left: 1rem;
}
.many {
  margin: 0.6rem 0 1rem;
}
.price {
  margin: 0;
}
@media (max-width: 36rem) {
  li {
    grid-template-columns: minmax(0, 1fr) auto;
  }
  img {
    display: none;
  }
}
</style>
