import { computed, ref, watch } from 'vue';
import type { Answers, Evaluated } from '../entry/answers';
import { boxesLeft, withBoxesLeft } from '../entry/boxes';
import { sentenceOf, type Schemas } from '../shared/api/client';
import { kept } from '../shared/kept';
import { latest } from '../shared/latest';
import { evaluateCart, useCart, type CartKind } from './cart';
import { changedIn, isEmpty, nothingTyped, overlaid, takeTyped, unitsOf, type DrawnLine, type TypedLine } from './typed';

/** What was typed at some steps and is not in the cart yet: nothing else, so that it replaces nothing else. */
interface Typed {
  answers: Answers;
  lines: Record<string, TypedLine>;
}

const nothing = (): Typed => ({ answers: {}, lines: {} });

/** What is typed at one or several steps of a cart, evaluated while typing, and put into the cart at the end. */
export function useCheckout(kind: CartKind, steps: () => string[]) {
  const basket = useCart(kind);
  const preview = ref<Evaluated>();
  const failure = ref('');
  const { value: typed, letGo } = kept<Typed>(`${kind}:${steps().join(',')}`, nothing);

  const lines = computed(() => basket.view.value?.cart.lines ?? []);
  const evaluation = computed(() => preview.value ?? basket.view.value?.evaluation);
  const isHere = (p: { step: string }) => steps().includes(p.step);
  const problems = computed(() => evaluation.value?.problems.filter((p) => p.field && isHere(p)) ?? []);

  /** The answers of the order, as they stand with what was typed. */
  const answers = computed<Answers>({
    get: () => ({ ...basket.view.value?.cart.answers, ...typed.value.answers }),
    set: (now) => Object.assign(typed.value.answers, changedIn(answers.value, now)),
  });
  /** The same of every line. */
  const drafts = computed<Record<string, DrawnLine>>({
    get: () => Object.fromEntries(lines.value.map((l) => [l.id, overlaid(l, typed.value.lines[l.id])])),
    set: (now) => {
      for (const [id, draft] of Object.entries(now)) {
        const before = drafts.value[id];
        const over = typed.value.lines[id] ?? nothingTyped();
        if (before && takeTyped(over, before, draft)) typed.value.lines[id] = over;
      }
    },
  });

  const asTyped = (): Schemas['CartContent'] => ({
    ...basket.view.value!.cart,
    answers: answers.value,
    lines: lines.value.map((l) => ({ ...l, ...drafts.value[l.id] })),
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
  if (!isEmpty(typed.value.answers) || !isEmpty(typed.value.lines)) evaluate.soon(undefined);

  // Says no for every box of these steps without a tick, which may bring further questions; whether there was one.
  function leaveBoxes(): boolean {
    const asked = evaluation.value?.asked.filter(isHere) ?? [];
    const of = (line: string | null) => asked.filter((a) => a.line_id === line);
    const own = boxesLeft(of(null), answers.value);
    const left = Object.entries(drafts.value).flatMap(([id, draft]) => {
      const now = withBoxesLeft(of(id), draft);
      return now ? [[id, now] as const] : [];
    });
    answers.value = { ...answers.value, ...own };
    drafts.value = { ...drafts.value, ...Object.fromEntries(left) };
    return !isEmpty(own) || left.length > 0;
  }

  /** Puts what was typed at these steps into the cart, in one piece. */
  async function save(): Promise<void> {
    do {
      await evaluate.now(undefined);
      if (failure.value) throw new Error(failure.value);
    } while (leaveBoxes());
    const sent = JSON.stringify(typed.value);
    const now = JSON.parse(sent) as Typed;
    await basket.answer(
      steps().at(-1)!,
      now.answers,
      Object.entries(now.lines).map(([id, line]) => ({ id, answers: line.answers, units: unitsOf(line) })),
    );
    // What was typed while it was on its way is still to go.
    if (JSON.stringify(typed.value) === sent) typed.value = nothing();
    preview.value = undefined;
  }

  return { basket, answers, drafts, lines, evaluation, problems, failure, save, letGo };
}
