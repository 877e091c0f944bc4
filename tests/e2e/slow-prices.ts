// What carts cost, worked out a second time from the words of the design (section 4, "Order of pricing"): in exact fractions of big integers,
// without any thought for speed, and sharing nothing with the core.

interface Tariff {
  minor: number;
  ppm: number;
  bands: { over: number; minor: number }[];
  ceiling_minor: number | null;
}
interface Price {
  kind: 'for_the_goods' | 'per_unit' | 'percent' | 'once_per_line' | 'once_per_order';
  by: 'answer' | 'letter' | 'character' | 'word' | 'count' | 'amount';
  choice: string | null;
  tariff: Tariff;
  included: number;
  band_for_all: boolean;
  for: { group: string | null; variant: string | null; tariff: Tariff }[];
  when: { value: number } | null;
  tax_ppm: number | null;
}
interface Field {
  key: string;
  level: 'order' | 'line' | 'unit';
  step: string;
  settings: { choices?: { key: string }[] };
  prices: Price[];
  included_picks: number;
}
export interface Shop {
  currency: string;
  digits: number;
  include_tax: boolean;
  standard_ppm: number;
  coupons: { code: string; ppm: number; minor: number }[];
  fields: Field[];
}
type Answer = string | number | boolean | string[] | Record<string, string>;
type Answers = Record<string, Answer>;
interface Line {
  quantity: number;
  price: number;
  tax_ppm: number | null;
  variant: string | null;
  answers: Answers;
  units: Answers[];
}
export interface Cart {
  group: string;
  coupon: string;
  lines: Line[];
  answers: Answers;
}
type Row = [kind: string, line: number, unit: number, field: string | null, choice: string | null, quantity: number, unitMinor: number, sum: number, ppm: number, tax: number];

// A fraction of whole numbers; the denominator is above zero.
class Fraction {
  constructor(
    readonly n: bigint,
    readonly d: bigint = 1n,
  ) {}
  static of(decimal: number): Fraction {
    const [whole, rest = ''] = String(decimal).split('.');
    return new Fraction(BigInt(whole! + rest), 10n ** BigInt(rest.length));
  }
  plus(o: Fraction): Fraction {
    return new Fraction(this.n * o.d + o.n * this.d, this.d * o.d);
  }
  minus(o: Fraction): Fraction {
    return new Fraction(this.n * o.d - o.n * this.d, this.d * o.d);
  }
  times(o: Fraction): Fraction {
    return new Fraction(this.n * o.n, this.d * o.d);
  }
  over(o: Fraction): boolean {
    return this.n * o.d > o.n * this.d;
  }
  // The greatest whole number that is not greater.
  floor(): bigint {
    const q = this.n / this.d;
    return this.n % this.d < 0n ? q - 1n : q;
  }
  // To whole numbers, half away from zero.
  rounded(): number {
    const half = new Fraction(1n, 2n);
    return Number(this.n < 0n ? -new Fraction(-this.n, this.d).plus(half).floor() : this.plus(half).floor());
  }
}

const million = 1_000_000n;
const whole = (n: number) => new Fraction(BigInt(n));
const least = (a: Fraction, b: Fraction) => (a.over(b) ? b : a);
const greatest = (a: Fraction, b: Fraction) => (a.over(b) ? a : b);
const characters = new Intl.Segmenter('en', { granularity: 'grapheme' });

function pickedOf(answer: Answer, choice: string): number {
  if (typeof answer === 'object') {
    return Array.isArray(answer) ? (answer.includes(choice) ? 1 : 0) : Number(answer[choice] ?? 0);
  }
  return answer === choice ? 1 : 0;
}

function countOf(price: Price, answer: Answer): Fraction {
  if (price.choice !== null) {
    return whole(pickedOf(answer, price.choice));
  }
  const clusters = () => [...characters.segment(String(answer))].map((s) => s.segment);
  switch (price.by) {
    case 'answer':
      return whole(answer === false ? 0 : 1);
    case 'letter':
      return whole(clusters().filter((c) => /[\p{L}\p{Nd}]/u.test(c)).length);
    case 'character':
      return whole(clusters().length);
    case 'word':
      return whole(String(answer).split(/\s+/u).filter((w) => /[\p{L}\p{Nd}]/u.test(w)).length);
    case 'amount':
      return Fraction.of(answer as number);
    default:
      return Array.isArray(answer) ? whole(answer.length)
        : typeof answer === 'object' ? whole(Object.values(answer).reduce((sum, n) => sum + Number(n), 0))
        : Fraction.of(answer as number);
  }
}

// The amount for a count: what lies between two ends of bands, and is not included, costs what the band says.
function amountOf(price: Price, tariff: Tariff, count: Fraction, digits: number): number {
  let exact: Fraction;
  if (price.by === 'answer') {
    exact = whole(tariff.minor);
  } else if (price.by === 'amount') {
    exact = count.times(whole(10 ** digits));
  } else if (price.band_for_all) {
    const band = tariff.bands.filter((b) => count.over(whole(b.over))).at(-1);
    exact = count.over(whole(price.included)) ? whole((band ?? tariff).minor) : whole(0);
  } else {
    exact = [{ over: 0, minor: tariff.minor }, ...tariff.bands].reduce((sum, band, i) => {
      const end = tariff.bands[i] ? least(whole(tariff.bands[i].over), count) : count;
      const pieces = end.minus(greatest(whole(band.over), whole(price.included)));
      return pieces.over(whole(0)) ? sum.plus(pieces.times(whole(band.minor))) : sum;
    }, whole(0));
  }
  const rounded = exact.rounded();
  return tariff.ceiling_minor === null ? rounded : Math.max(-tariff.ceiling_minor, Math.min(tariff.ceiling_minor, rounded));
}

export function priceCart(shop: Shop, cart: Cart): { rows: Row[]; total: number } {
  const rows: Row[] = [];
  // Fields stand by their step and then by their place; of a kind those of the order come first, then those of lines, then those of units.
  const levels = ['order', 'line', 'unit'];
  const ordered = [...shop.fields].sort((a, b) => levels.indexOf(a.level) - levels.indexOf(b.level));
  const pricesOf = (kind: Price['kind'], level?: Field['level']) =>
    ordered.filter((f) => !level || f.level === level).flatMap((field) => field.prices.filter((p) => p.kind === kind).map((price) => ({ field, price })));

  const tariffOf = (price: Price, line?: Line) => {
    const fitting = price.for.filter((f) => (f.group === null || f.group === cart.group) && (f.variant === null || f.variant === line?.variant));
    const closest = [...fitting].sort((a, b) => (b.variant ? 2 : 0) + (b.group ? 1 : 0) - (a.variant ? 2 : 0) - (a.group ? 1 : 0))[0];
    return closest?.tariff ?? price.tariff;
  };
  const holds = (price: Price, line?: Line) => price.when === null || line!.quantity > price.when.value;

  // What one answer comes to for one, or undefined where the price does not apply.
  const amount = (field: Field, price: Price, answer: Answer | undefined, line?: Line): number | undefined => {
    if (answer === undefined || !holds(price, line)) {
      return undefined;
    }
    let count = countOf(price, answer);
    if (!count.over(whole(0))) {
      return undefined;
    }
    if (price.choice !== null && price.kind !== 'for_the_goods' && price.kind !== 'percent' && field.included_picks > 0) {
      count = count.minus(whole(includedOf(field, price.choice, answer, line)));
      if (!count.over(whole(0))) {
        return undefined;
      }
    }
    return amountOf(price, tariffOf(price, line), count, shop.digits);
  };

  // All picks laid out one by one, the cheapest first and then as listed; the first so many are included.
  const includedOf = (field: Field, choice: string, answer: Answer, line?: Line): number => {
    const costOf = (key: string) =>
      field.prices
        .filter((p) => p.choice === key && p.kind !== 'percent' && p.kind !== 'for_the_goods' && holds(p, line))
        .reduce((sum, p) => sum + amountOf(p, tariffOf(p, line), whole(1), shop.digits), 0);
    const laidOut = field.settings.choices!.flatMap(({ key }, at) => Array.from({ length: pickedOf(answer, key) }, () => ({ key, at, cost: costOf(key) })));
    laidOut.sort((a, b) => a.cost - b.cost || a.at - b.at);
    return laidOut.slice(0, field.included_picks).filter((p) => p.key === choice).length;
  };

  const add = (kind: string, line: number, unit: number, field: Field | null, price: Price | null, quantity: number, each: number, ppm: number) => {
    rows.push([kind, line, unit, field?.key ?? null, price?.choice ?? null, quantity, each, quantity * each, price?.tax_ppm ?? ppm, 0]);
  };
  const share = (price: Price, goods: number, line?: Line): number => {
    const tariff = tariffOf(price, line);
    const sum = new Fraction(BigInt(goods) * BigInt(tariff.ppm), million).rounded();
    return tariff.ceiling_minor === null ? sum : Math.max(-tariff.ceiling_minor, Math.min(tariff.ceiling_minor, sum));
  };
  const floor = (from: number, line: number, ppm: number) => {
    const sum = rows.slice(from).reduce((s, r) => s + r[7], 0);
    if (sum < 0) {
      add('Floor', line, -1, null, null, 1, -sum, ppm);
    }
  };

  let allGoods = 0;
  cart.lines.forEach((line, at) => {
    const from = rows.length;
    const ppm = line.tax_ppm ?? shop.standard_ppm;
    const answered = pricesOf('for_the_goods').map(({ field, price }) => amount(field, price, line.answers[field.key], line)).find((a) => a !== undefined);
    const each = answered ?? line.price;
    add('Goods', at, -1, null, null, line.quantity, each, ppm);
    allGoods += each * line.quantity;

    for (const kind of ['per_unit', 'percent'] as const) {
      for (const { field, price } of pricesOf(kind, 'line').concat(pricesOf(kind, 'unit'))) {
        const places = field.level === 'line' ? [{ answer: line.answers[field.key], unit: -1, times: line.quantity }]
          : line.units.map((u, unit) => ({ answer: u[field.key], unit, times: 1 }));
        for (const { answer, unit, times } of places) {
          if (kind === 'percent') {
            const applies = answer !== undefined && holds(price, line) && countOf(price, answer).over(whole(0));
            const sum = applies ? share(price, each * times, line) : 0;
            if (sum !== 0) {
              add('Answer', at, unit, field, price, 1, sum, ppm);
            }
          } else {
            const one = amount(field, price, answer, line);
            if (one) {
              add('Answer', at, unit, field, price, times, one, ppm);
            }
          }
        }
      }
    }
    for (const { field, price } of pricesOf('once_per_line')) {
      const all = field.level === 'line' ? [{ answer: line.answers[field.key], unit: -1 }] : line.units.map((u, unit) => ({ answer: u[field.key], unit }));
      const priced = all.map(({ answer, unit }) => ({ unit, sum: amount(field, price, answer, line) })).filter((p) => p.sum !== undefined);
      const most = priced.find((p) => p.sum === Math.max(...priced.map((o) => o.sum!)));
      if (most?.sum) {
        add('Answer', at, most.unit, field, price, 1, most.sum, ppm);
      }
    }
    floor(from, at, ppm);
  });

  for (const { field, price } of pricesOf('once_per_order')) {
    const all = field.level === 'order' ? [amount(field, price, cart.answers[field.key])]
      : cart.lines.flatMap((line) => (field.level === 'line' ? [line.answers] : line.units).map((a) => amount(field, price, a[field.key], line)));
    const priced = all.filter((a) => a !== undefined);
    const most = priced.length > 0 ? Math.max(...priced) : 0;
    if (most !== 0) {
      add('Answer', -1, -1, field, price, 1, most, shop.standard_ppm);
    }
  }
  for (const { field, price } of pricesOf('percent', 'order')) {
    const answer = cart.answers[field.key];
    const sum = answer !== undefined && countOf(price, answer).over(whole(0)) ? share(price, allGoods) : 0;
    if (sum !== 0) {
      add('Answer', -1, -1, field, price, 1, sum, shop.standard_ppm);
    }
  }
  floor(0, -1, shop.standard_ppm);

  const ratesNow = () => [...new Set(rows.map((r) => r[8]))].sort((a, b) => a - b);
  const sumAt = (ppm: number) => rows.filter((r) => r[8] === ppm).reduce((s, r) => s + r[7], 0);
  const coupon = shop.coupons.find((c) => c.code === cart.coupon);
  if (coupon) {
    const total = rows.reduce((s, r) => s + r[7], 0);
    const off = coupon.minor > 0 ? Math.min(coupon.minor, total) : new Fraction(BigInt(total) * BigInt(coupon.ppm), million).rounded();
    if (off > 0) {
      const rates = ratesNow();
      const weights = rates.map((ppm) => Math.max(0, sumAt(ppm)));
      const all = weights.reduce((s, w) => s + w, 0);
      const shares = shared(weights.map((w) => new Fraction(BigInt(off) * BigInt(w), BigInt(all))), off);
      rates.forEach((ppm, i) => {
        if (shares[i]) {
          add('Coupon', -1, -1, null, null, 1, -shares[i], ppm);
        }
      });
    }
  }

  let total = rows.reduce((s, r) => s + r[7], 0);
  for (const ppm of ratesNow()) {
    const base = shop.include_tax ? million + BigInt(ppm) : million;
    const taxOf = (sum: number) => new Fraction(BigInt(sum) * BigInt(ppm), base);
    const tax = taxOf(sumAt(ppm)).rounded();
    const at = rows.filter((r) => r[8] === ppm);
    shared(at.map((r) => taxOf(r[7])), tax).forEach((s, i) => (at[i]![9] = s));
    total += shop.include_tax ? 0 : tax;
  }
  return { rows, total };
}

// Whole parts first; what is left goes to the greatest remainders, of two equal ones to the earlier.
function shared(dues: Fraction[], total: number): number[] {
  const shares = dues.map((d) => Number(d.floor()));
  let left = total - shares.reduce((s, n) => s + n, 0);
  const rests = dues.map((d, i) => ({ i, rest: d.minus(new Fraction(d.floor())) }));
  rests.sort((a, b) => (a.rest.over(b.rest) ? -1 : b.rest.over(a.rest) ? 1 : a.i - b.i));
  for (const { i } of rests) {
    if (left-- > 0) {
      shares[i]!++;
    }
  }
  return shares;
}
