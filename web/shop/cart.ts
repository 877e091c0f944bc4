import { shallowRef } from 'vue';
import { unfold, type Answers, type Evaluated, type Forms, type Unit } from '../entry/answers';
import { api, ask, type Schemas } from '../shared/api/client';
import { spoken } from '../shared/wording';

/** The cart, or the one that holds what is bought at once. */
export type CartKind = 'cart' | 'at_once';

/** A line as it is typed on its page. */
export interface LineDraft {
  product: string;
  variant?: string;
  quantity: number;
  answers: Answers;
  units: Unit[];
  /** How many numbers were given to its units so far. */
  units_given: number;
}

/** A cart with its evaluation. */
export type Cart = Omit<Schemas['CartView'], 'evaluation'> & { evaluation: Evaluated };

const views = { cart: shallowRef<Cart>(), at_once: shallowRef<Cart>() };

/** A cart and what can be done with it. Every call gives the whole cart back, evaluated. */
export function useCart(kind: CartKind) {
  const view = views[kind];
  const headers = kind === 'at_once' ? { 'Sexton-Cart': 'at_once' } : {};

  async function take(reply: Parameters<typeof ask<Schemas['CartView']>>[0]): Promise<void> {
    const cart = await ask(reply);
    view.value = { ...cart, evaluation: unfold(cart.evaluation) };
  }

  return {
    view,
    headers,
    load: () => take(api.GET('/api/shop/v1/cart', { headers })),
    /** Puts a line in. The same key twice puts it in once. */
    add: (line: LineDraft, orderAnswers: Answers, key: string) =>
      take(
        api.POST('/api/shop/v1/cart/lines', {
          headers,
          params: { header: { 'Idempotency-Key': key } },
          body: { ...line, order_answers: orderAnswers },
        }),
      ),
    /** Makes it the only line. */
    replace: (line: LineDraft, orderAnswers: Answers) =>
      take(api.PUT('/api/shop/v1/cart/lines', { headers, body: { ...line, order_answers: orderAnswers } })),
    /** Changes a line; what is not said stays as it is. */
    change: (id: string, body: Schemas['ChangeLineRequest']) =>
      take(api.PUT('/api/shop/v1/cart/lines/{id}', { headers, params: { path: { id } }, body })),
    /** Gives a coupon; "" takes it out. */
    coupon: (code: string) => take(api.PUT('/api/shop/v1/cart/coupon', { headers, body: { code } })),
    answer: (step: string, answers: Answers, lines: Schemas['LineAnswers'][] = []) =>
      take(api.PUT('/api/shop/v1/cart/answers', { headers, body: { step, answers, lines } })),
  };
}

// They hardly ever change while somebody types, and are a good part of a reply.
let last: { digest: string; forms: Forms } | undefined;

/** What would be asked of a cart. */
export async function evaluateCart(cart: Schemas['CartContent']): Promise<Evaluated> {
  const known = last;
  const body = { ...cart, language: spoken().language };
  const reply = await ask(api.POST('/api/shop/v1/evaluate', { params: { query: { has: known?.digest } }, body }));
  if (reply.fields) last = { digest: reply.forms, forms: reply.fields };
  return unfold(reply, known?.forms);
}
