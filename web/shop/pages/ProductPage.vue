<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import EntryForm from '../../entry/EntryForm.vue';
import LineForm from '../../entry/LineForm.vue';
import type { Answers, Evaluated, Unit } from '../../entry/answers';
import { allUnits, HANDFUL, isBlank } from '../../entry/answers';
import { boxesLeft, withBoxesLeft } from '../../entry/boxes';
import PriceSum from '../../entry/PriceSum.vue';
import { sentenceOf } from '../../shared/api/client';
import { kept } from '../../shared/kept';
import { latest } from '../../shared/latest';
import { useNarrow } from '../../shared/narrow';
import { useWork } from '../../shared/work';
import { evaluateCart, useCart } from '../cart';
import { catalogue, productOf, said } from '../catalogue';
import QuantityEntry from '../parts/QuantityEntry.vue';
import { say } from '../../shared/wording';

// The shopper decides here what to buy and how many, and fills in what belongs to it; the price stands beside it.
const { code } = defineProps<{ code: string }>();
const router = useRouter();
const basket = useCart('cart');
const { busy, failure, run } = useWork();

const LINE = 'new';
const STEP = 'product_page';

interface Typed {
  variant?: string;
  quantity: number;
  answers: Answers;
  units: Unit[];
  /** How many numbers were given to units so far: one that is taken out takes its number with it. */
  units_given: number;
  order: Answers;
  /** Under this the line is put into the cart: the same twice puts it in once. */
  key: string;
}

const product = computed(() => productOf(code));
const { value: typed, letGo } = kept<Typed>(`product:${code}`, () => ({
  variant: product.value?.variants[0]?.code,
  quantity: 1,
  answers: {},
  units: [],
  units_given: 0,
  order: {},
  key: crypto.randomUUID(),
}));
const evaluation = ref<Evaluated>();
const showAll = ref(false);
const lineForm = useTemplateRef('lineForm');
const quantityEntry = useTemplateRef('quantityEntry');
const orderForm = useTemplateRef('orderForm');

const answered = computed(() => ({ ...basket.view.value?.cart.answers, ...typed.value.order }));
const itemCode = computed(() => evaluation.value?.codes[0]?.code);
const orderAsked = computed(() => evaluation.value?.asked.filter((a) => a.line_id === null && a.step === STEP) ?? []);
const orderProblems = computed(() => evaluation.value?.problems.filter((p) => p.line_id === null && p.field && p.step === STEP) ?? []);
const problems = computed(() => evaluation.value?.problems.filter((p) => (p.field && p.step === STEP) || p.code === 'too_many_each') ?? []);
const asksLine = computed(
  () => evaluation.value && [...evaluation.value.asked, ...evaluation.value.problems].some((a) => a.line_id === LINE && a.step === STEP),
);

// An answer can be the price: then the catalogue's is none, and until it is given the price is open.
const narrow = useNarrow();
const sumShown = computed(() => {
  const shown = catalogue.value?.product_sum;
  return shown === 'nothing' ? undefined : shown;
});
const goods = computed(() => evaluation.value?.prices.rows.find((r) => r.kind === 'goods'));
const each = computed(
  () => goods.value?.unit || (product.value?.variants.find((v) => v.code === typed.value.variant)?.price ?? product.value?.price),
);

// A table of seats takes the room of the picture.
const wide = computed(() => (evaluation.value?.units.length ?? 0) > HANDFUL);

// What was answered with another product is shown as answered: nobody is asked twice. What only stands there as a default was answered by nobody.
const settled = computed(() =>
  Object.fromEntries(
    orderAsked.value
      .filter((a) => a.text && isBlank(typed.value.order[a.field]) && !isBlank(basket.view.value?.cart.answers?.[a.field]))
      .map((a) => [a.field, a.text]),
  ),
);

// Each one that came to be asked is kept with its number, so that it has the same one with every look.
function keepPlaces(result: Evaluated): void {
  const units = allUnits(result, LINE, typed.value.units);
  if (!units.length) return;
  if (idsOf(units) !== idsOf(typed.value.units)) typed.value.units = units;
  const given = Math.max(typed.value.units_given, ...units.map((u) => Number(u.id.slice(1))));
  if (given !== typed.value.units_given) typed.value.units_given = given;
}

const idsOf = (units: Unit[]): string => units.map((u) => u.id).join();
// How many and which: a reply to another question than this says nothing about them.
const asked = (): string => `${typed.value.quantity} ${idsOf(typed.value.units)}`;

const evaluate = latest(
  async () => {
    const { variant, quantity, answers, units, units_given } = typed.value;
    const about = asked();
    return {
      about,
      result: await evaluateCart({
        lines: [{ id: LINE, product_code: code, variant_code: variant, quantity, answers, units, units_given }],
        answers: answered.value,
      }),
    };
  },
  ({ about, result }) => {
    evaluation.value = result;
    if (about === asked()) keepPlaces(result);
    failure.value = '';
  },
  (error) => (failure.value = sentenceOf(error)),
);

watch(typed, () => evaluate.soon(undefined), { deep: true });
void evaluate.now(undefined);

// Says no for every box of this page without a tick, which may bring further questions.
function leaveBoxes(): void {
  const here = evaluation.value?.asked.filter((a) => a.step === STEP) ?? [];
  const own = withBoxesLeft(
    here.filter((a) => a.line_id === LINE),
    typed.value,
  );
  const ofOrder = boxesLeft(orderAsked.value, answered.value);
  const some = Object.keys(ofOrder).length > 0;
  if (own || some) typed.value = { ...(own ?? typed.value), order: { ...typed.value.order, ...ofOrder } };
}

/** True when nothing on this page stands in the way; else the first problem has the focus. */
async function isComplete(): Promise<boolean> {
  if (!quantityEntry.value?.isSettled()) return false;
  // A question that has just come may be answered at once, by the page's script or as a box without a tick: that is judged, too.
  let judged: string;
  do {
    judged = JSON.stringify(typed.value);
    await evaluate.now(undefined);
    await nextTick();
    leaveBoxes();
  } while (!failure.value && JSON.stringify(typed.value) !== judged);
  showAll.value = true;
  if (!evaluation.value || failure.value) return false;
  if (!problems.value.length) return true;
  await nextTick();
  if (!lineForm.value?.focusFirstProblem()) orderForm.value?.focusFirstProblem();
  return false;
}

const line = () => ({
  product: code,
  variant: typed.value.variant,
  quantity: typed.value.quantity,
  answers: typed.value.answers,
  units: typed.value.units,
  units_given: typed.value.units_given,
});

async function add(): Promise<void> {
  await run(async () => {
    if (!(await isComplete())) return;
    await basket.add(line(), typed.value.order, typed.value.key);
    said.value = say('shop.is_in_cart', product.value?.name);
    letGo();
    await router.push('/cart');
  });
}

async function buyAtOnce(): Promise<void> {
  await run(async () => {
    if (!(await isComplete())) return;
    await useCart('at_once').replace(line(), typed.value.order);
    await router.push('/at-once');
  });
}
</script>

<template>
  <div v-if="product" class="sheet product" :class="{ wide }">
    <div class="left">
      <img v-if="product.picture" :src="`/pictures/${product.picture}`" :alt="product.picture_words" width="470" height="300" />
      <PriceSum v-if="evaluation && sumShown && !narrow" :prices="evaluation.prices" :units="evaluation.units" :shown="sumShown" />
    </div>
    <form novalidate @submit.prevent="add">
      <h1>{{ product.name }}</h1>
      <p class="price">
        {{ each }} <template v-if="!goods?.is_open">{{ say('shop.each') }}</template>
      </p>
      <p>{{ product.description }}</p>
      <div v-if="product.variants.length" class="variants" role="radiogroup" :aria-label="say('shop.which_one')">
        <label v-for="variant in product.variants" :key="variant.code">
          <input v-model="typed.variant" type="radio" name="variant" :value="variant.code" /> {{ variant.name }}
          <span class="soft">{{ variant.price }}</span>
        </label>
      </div>
      <QuantityEntry
        id="quantity"
        ref="quantityEntry"
        v-model="typed.quantity"
        v-model:units="typed.units"
        class="many"
        :evaluation="evaluation"
        :line="LINE"
      />
      <div v-if="evaluation && (asksLine || orderAsked.length || orderProblems.length)" class="asked">
        <LineForm
          ref="lineForm"
          v-model:answers="typed.answers"
          v-model:units="typed.units"
          :evaluation="evaluation"
          :line="LINE"
          :step="STEP"
          :show-all="showAll"
          prefix="line"
        />
        <EntryForm
          v-if="orderAsked.length || orderProblems.length"
          ref="orderForm"
          v-model="typed.order"
          class="whole-order"
          :asked="orderAsked"
          :problems="orderProblems"
          :sections="evaluation.sections"
          :settled="settled"
          :show-all="showAll"
          prefix="order"
        />
      </div>
      <p v-if="failure" class="problem" role="alert">{{ failure }}</p>
      <!-- Where there is no room beside the questions, it stays in sight below them. -->
      <PriceSum
        v-if="evaluation && sumShown && narrow"
        class="below"
        :prices="evaluation.prices"
        :units="evaluation.units"
        :shown="sumShown === 'added' ? 'added' : 'total'"
      />
      <p v-if="itemCode" class="soft">{{ say('shop.item', itemCode) }}</p>
      <p class="do">
        <button class="buy" :disabled="busy">{{ say('shop.put_in_cart', typed.quantity) }}</button>
        <span
          >{{ say('shop.or') }}
          <button class="plain" type="button" :disabled="busy" @click="buyAtOnce">{{ say('shop.buy_it_at_once') }}</button></span
        >
      </p>
    </form>
  </div>
  <div v-else class="sheet">
    <h1>{{ say('shop.not_sold_here') }}</h1>
    <RouterLink to="/">{{ say('shop.see_all') }}</RouterLink>
  </div>
</template>

<style scoped>
.product {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 7fr);
  gap: 3.5rem;
}
.product.wide {
  grid-template-columns: minmax(0, 1fr) minmax(0, 4fr);
  gap: 2rem;
}
.left {
  position: sticky;
  top: 1rem;
  align-self: start;
  /* Less the head of the shop, which stands above it before anybody scrolls. */
  max-height: calc(100vh - 11rem);
  overflow: auto;
}
/* However many rows there are above it, what it comes to stays in sight. */
.left :deep(.total) {
  position: sticky;
  bottom: 0;
  padding-block: 0.3rem;
  background: var(--shop-sheet);
}
img {
  width: 100%;
  height: auto;
  background: var(--shop-wash);
  margin-bottom: 1.2rem;
}
h1 {
  margin-bottom: 0.3rem;
}
.price {
  font-size: 1.2rem;
  margin: 0 0 0.6rem;
}
.variants label {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  min-height: 2.4rem;
}
.variants input {
  width: 1.15rem;
  height: 1.15rem;
  accent-color: var(--shop-leaf);
}
.asked {
  border-top: 2px solid var(--shop-bark);
  padding-top: 1rem;
  margin-bottom: 1.3rem;
}
.whole-order {
  margin-top: 1.2rem;
}
.many {
  margin: 1rem 0 1.3rem;
}
.do {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 0.8rem 1rem;
}
@media (max-width: 48rem) {
  .product,
  .product.wide {
    grid-template-columns: 1fr;
    gap: 1rem;
  }
  .left {
    position: static;
    max-height: none;
  }
  .below {
    position: sticky;
    bottom: 0;
    z-index: 1;
    max-height: 40vh;
    overflow: auto;
    padding-bottom: 0.6rem;
    background: var(--shop-sheet);
  }
}
</style>
