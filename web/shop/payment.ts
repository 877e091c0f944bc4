import { useCart, type CartKind } from './cart';
import { api, ApiError, ask, type Schemas } from '../shared/api/client';
import { say } from '../shared/wording';

/** The cards that the payment stand-in knows. */
export const testCards = [
  { number: '9000 0000 0000 0019', does: 'shop.card_accepted' },
  { number: '9000 0000 0000 0027', does: 'shop.card_declined' },
  { number: '9000 0000 0000 0035', does: 'shop.card_lost' },
] as const;

const STORE = 'sexton-payment';

/** What this page has begun to pay: kept over a reload, so that the same payment is never made twice. */
interface Begun {
  key: string;
  token: string;
  /** What was offered on the page when it was begun. */
  seen: Schemas['Offer'];
}

export const begunOf = (kind: CartKind) => ({
  read: (): Begun | null => JSON.parse(sessionStorage.getItem(`${STORE}-${kind}`) ?? 'null') as Begun | null,
  write: (payment: Begun) => sessionStorage.setItem(`${STORE}-${kind}`, JSON.stringify(payment)),
  clear: () => sessionStorage.removeItem(`${STORE}-${kind}`),
});

/** Gives the card number to the payment provider, and to nobody else, for a one-time token. */
export async function tokenFor(paymentsUrl: string, card: string): Promise<string> {
  let response;
  try {
    response = await fetch(new URL('tokens', paymentsUrl), {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ card }),
    });
  } catch {
    throw new ApiError({
      status: 0,
      code: 'offline',
      detail: say('shop.provider_away'),
    });
  }
  const body = (await response.json()) as { token?: string; detail?: string };
  if (!response.ok || !body.token) throw new ApiError({ status: response.status, code: 'card', detail: say('shop.card_not_taken') });
  return body.token;
}

/** Pays, and waits for the outcome. The same payment may be sent as often as wanted. */
export async function pay(kind: CartKind, payment: Begun): Promise<Schemas['AttemptView']> {
  const { headers } = useCart(kind);
  let attempt = await ask(
    api.POST('/api/shop/v1/attempts', {
      headers,
      params: { header: { 'Idempotency-Key': payment.key } },
      body: { payment_token: payment.token, seen: payment.seen },
    }),
  );
  while (attempt.state === 'paying') {
    await new Promise((resolve) => setTimeout(resolve, 1000));
    attempt = await ask(api.GET('/api/shop/v1/attempts/{key}', { headers, params: { path: { key: payment.key } } }));
  }
  return attempt;
}
