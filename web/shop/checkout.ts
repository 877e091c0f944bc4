import { computed, ref, watch } from 'vue';
import type { Answers, Evaluated, Unit } from '../entry/answers';
import { sentenceOf, type Schemas } from '../shared/api/client';
import { kept } from '../shared/kept';
import { latest } from '../shared/latest';
import { evaluateCart, useCart, type CartKind } from './cart';

interface Typed {
  answers: Answers;
  lines: Record<string, { answers: Answers; units: Unit[] }>;
}

/** What is typed at one or several steps of a cart, evaluated while typing, and put into the cart at the end. */
export function useCheckout(kind: CartKind, steps: () => string[]) {
  const basket = useCart(kind);
  const preview = ref<Evaluated>();
  const failure = ref('');

  const fresh = (): Typed => ({
    answers: { ...basket.view.value?.cart.answers },
    lines: Object.fromEntries((basket.view.value?.cart.lines ?? []).map((l) => [l.id, { answers: { ...l.answers }, units: [...(l.units ?? [])] }])),
  });
  const { value: typed, letGo } = kept<Typed>(`${kind}:${steps().join(',')}`, fresh);

  // What the cart has got meanwhile, such as a line of another tab, stands beside what was typed.
  typed.value = { answers: { ...fresh().answers, ...typed.value.answers }, lines: { ...fresh().lines, ...typed.value.lines } };

  const lines = computed(() => basket.view.value?.cart.lines ?? []);
  const evaluation = computed(() => preview.value ?? basket.view.value?.evaluation);
  const isHere = (p: { step: string }) => steps().includes(p.step);
  const problems = computed(() => evaluation.value?.problems.filter((p) => p.field && isHere(p)) ?? []);

  const asTyped = (): Schemas['CartContent'] => ({
    ...basket.view.value!.cart,
    answers: typed.value.answers,
    lines: lines.value.map((l) => ({ ...l, ...typed.value.lines[l.id] })),
  });
  const evaluate = latest(
    () => evaluateCart(asTyped()),
    (result) => {
      preview.value = result;
      failure.value = '';
    },
    (error) => (failure.value = sentenceOf(error)),
  );
  watch(typed, () => basket.view.value && evaluate.soon(undefined), { deep: true });

  /** Puts what was typed at these steps into the cart. */
  async function save(): Promise<void> {
    await evaluate.now(undefined);
    if (failure.value) throw new Error(failure.value);
    const asked = evaluation.value?.asked.filter(isHere) ?? [];
    const order = asked.filter((a) => a.line_id === null).map((a) => a.field);
    const given = Object.fromEntries(order.filter((f) => typed.value.answers[f] !== undefined).map((f) => [f, typed.value.answers[f]!]));
    for (const line of lines.value.filter((l) => asked.some((a) => a.line_id === l.id))) {
      const { answers, units } = typed.value.lines[line.id]!;
      await basket.change(line.id, line.quantity, answers, units, steps().at(-1));
    }
    await basket.answer(steps().at(-1)!, given);
    preview.value = undefined;
  }

  return { basket, typed, lines, evaluation, problems, failure, save, letGo };
}
