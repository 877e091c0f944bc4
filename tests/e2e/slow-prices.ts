// What carts cost, worked out a second time from the words of the design (section 4, "Order of pricing"): in exact fractions of big integers,
// without any thought for speed, and sharing nothing with the core.

const steps = ['product_page', 'cart', 'contact', 'delivery', 'payment'];

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
  uses: Use[];
}
interface Use {
  item: string;
  choice: string | null;
  quantity: number;
  by: 'answer' | 'count';
  per: 'unit' | 'line' | 'order';
  takes_price: boolean;
}
export interface Shop {
  currency: string;
  digits: number;
  include_tax: boolean;
  standard_ppm: number;
  coupons: { code: string; ppm: number; minor: number }[];
  fields: Field[];
  items: { code: string; price: number; tax_ppm: number | null }[];
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
  // The least whole number that is not less.
  ceiling(): bigint {
    return -new Fraction(-this.n, this.d).floor();
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

function countOf(price: { by: Price['by']; choice: string | null }, answer: Answer): Fraction {
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

// The amount for a count: what lies between two ends of bands, and is not included, costs what the band says. The included ones are the first.
function amountOf(price: Price, tariff: Tariff, count: Fraction, included: number, digits: number): number {
  let exact: Fraction;
  if (price.by === 'answer') {
    exact = whole(tariff.minor);
  } else if (price.by === 'amount') {
    exact = count.times(whole(10 ** digits));
  } else if (price.band_for_all) {
    const band = tariff.bands.filter((b) => count.over(whole(b.over))).at(-1);
    exact = whole((band ?? tariff).minor);
  } else {
    exact = [{ over: 0, minor: tariff.minor }, ...tariff.bands].reduce((sum, band, i) => {
      const end = tariff.bands[i] ? least(whole(tariff.bands[i].over), count) : count;
      const pieces = end.minus(greatest(whole(band.over), whole(included)));
      return pieces.over(whole(0)) ? sum.plus(pieces.times(whole(band.minor))) : sum;
    }, whole(0));
  }
  const rounded = exact.rounded();
  return tariff.ceiling_minor === null ? rounded : Math.max(-tariff.ceiling_minor, Math.min(tariff.ceiling_minor, rounded));
}

export function priceCart(shop: Shop, cart: Cart): { rows: Row[]; total: number; refused: boolean } {
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
    const count = countOf(price, answer);
    if (!count.over(whole(0))) {
      return undefined;
    }
    const included = price.included + (price.choice !== null && price.kind !== 'for_the_goods' ? includedOf(field, price.choice, answer, line) : 0);
    if (!count.over(whole(included))) {
      return included === 0 ? undefined : 0;
    }
    return amountOf(price, tariffOf(price, line), count, included, shop.digits);
  };

  // All picks laid out one by one, the cheapest first and then as listed; the first so many are included.
  const includedOf = (field: Field, choice: string, answer: Answer, line?: Line): number => {
    const costOf = (key: string) =>
      field.prices
        .filter((p) => p.choice === key && p.kind !== 'percent' && p.kind !== 'for_the_goods' && holds(p, line))
        .reduce((sum, p) => sum + amountOf(p, tariffOf(p, line), whole(1), 0, shop.digits), 0) +
      field.uses.filter((u) => u.takes_price && u.choice === key).reduce((sum, u) => sum + u.quantity * shop.items.find((i) => i.code === u.item)!.price, 0);
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

  // What is used of a component, and how much of it comes with pieces that are included and so costs nothing.
  const usedOf = (use: Use, answer: Answer | undefined): number => {
    const count = answer === undefined ? whole(0) : countOf(use, answer);
    return count.over(whole(0)) ? Number(count.ceiling()) * use.quantity : 0;
  };
  const freeOf = (field: Field, use: Use, answer: Answer | undefined, line?: Line): number => {
    if (answer === undefined) {
      return 0;
    }
    const first = Math.max(0, ...field.prices.filter((p) => p.choice === use.choice && holds(p, line)).map((p) => p.included));
    return (first + (use.choice === null ? 0 : includedOf(field, use.choice, answer, line))) * use.quantity;
  };
  const component = (field: Field, use: Use, line: number, unit: number, used: number, free: number) => {
    const item = shop.items.find((i) => i.code === use.item)!;
    if (use.takes_price && used > free) {
      rows.push(['Component', line, unit, field.key, use.choice, used - free, item.price, (used - free) * item.price, item.tax_ppm ?? shop.standard_ppm, 0]);
    }
  };
  // In the order in which the shopper meets the questions: step by step.
  const uses = steps.flatMap((step) => shop.fields.filter((field) => field.step === step)).flatMap((field) => field.uses.map((use) => ({ field, use })));

  const sumAtFrom = (from: number, ppm: number) => rows.slice(from).filter((r) => r[8] === ppm).reduce((s, r) => s + r[7], 0);
  const ratesFrom = (from: number) => [...new Set(rows.slice(from).map((r) => r[8]))].sort((a, b) => a - b);

  // What is taken off, by what stands at each rate: rows like the one given, at some place.
  const shareOut = (from: number, at: number, like: Row, off: number) => {
    const rates = ratesFrom(from);
    const weights = rates.map((ppm) => Math.max(0, sumAtFrom(from, ppm)));
    const all = weights.reduce((s, w) => s + w, 0);
    const shares = shared(weights.map((w) => new Fraction(BigInt(off) * BigInt(w), BigInt(all))), off);
    const made = rates.flatMap((ppm, i) => (shares[i] ? [[...like.slice(0, 5), 1, -shares[i], -shares[i], ppm, 0] as unknown as Row] : []));
    rows.splice(at, 0, ...made);
  };

  // At no rate is more taken off than stands there: from the last row on, what is too much is taken off the other rates instead.
  const settle = (from: number) => {
    for (let i = rows.length - 1; i >= from; i--) {
      const row = rows[i]!;
      const below = -sumAtFrom(from, row[8]);
      if (row[7] >= 0 || below <= 0) {
        continue;
      }
      const moved = Math.min(below, -row[7]);
      const left = row[7] + moved;
      rows.splice(i, 1, ...(left < 0 ? [[...row.slice(0, 5), 1, left, left, row[8], 0] as unknown as Row] : []));
      shareOut(from, left < 0 ? i + 1 : i, row, moved);
    }
  };

  let allGoods = 0;
  let refused = false;
  cart.lines.forEach((line, at) => {
    const from = rows.length;
    const ppm = line.tax_ppm ?? shop.standard_ppm;
    const asGoods = pricesOf('for_the_goods').map(({ field, price }) => amount(field, price, line.answers[field.key], line)).filter((a) => a !== undefined);
    const answered = asGoods[0];
    refused ||= asGoods.length > 1;
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
      const priced = all.map(({ answer, unit }) => ({ unit, sum: amount(field, price, answer, line) })).filter((p) => p.sum);
      const most = priced.find((p) => p.sum === Math.max(...priced.map((o) => o.sum!)));
      if (most?.sum) {
        add('Answer', at, most.unit, field, price, 1, most.sum, ppm);
      }
    }
    for (const { field, use } of uses) {
      if (field.level === 'line' && use.per !== 'order') {
        const times = use.per === 'unit' ? line.quantity : 1;
        const answer = line.answers[field.key];
        component(field, use, at, -1, usedOf(use, answer) * times, freeOf(field, use, answer, line) * times);
      } else if (field.level === 'unit' && use.per === 'unit') {
        line.units.forEach((u, unit) => component(field, use, at, unit, usedOf(use, u[field.key]), freeOf(field, use, u[field.key], line)));
      } else if (field.level === 'unit' && use.per === 'line') {
        component(field, use, at, -1, Math.max(0, ...line.units.map((u) => usedOf(use, u[field.key]))), 0);
      }
    }
    floor(from, at, ppm);
    settle(from);
  });
  const ofOrder = rows.length;

  for (const { field, price } of pricesOf('once_per_order')) {
    const all = field.level === 'order' ? [amount(field, price, cart.answers[field.key])]
      : cart.lines.flatMap((line) => (field.level === 'line' ? [line.answers] : line.units).map((a) => amount(field, price, a[field.key], line)));
    const priced = all.filter((a) => a !== undefined && a !== 0);
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
  for (const { field, use } of uses) {
    if (use.per === 'order') {
      const all = field.level === 'order' ? [cart.answers[field.key]] : cart.lines.flatMap((line) => (field.level === 'line' ? [line.answers] : line.units).map((a) => a[field.key]));
      component(field, use, -1, -1, Math.max(0, ...all.map((a) => usedOf(use, a))), field.level === 'order' ? freeOf(field, use, all[0]) : 0);
    }
  }
  // What adds stands before what takes off; that is shared over the rates of all that stands, and what is more than that is lifted again.
  const taking = rows.slice(ofOrder).filter((r) => r[7] < 0);
  rows.splice(ofOrder, rows.length, ...rows.slice(ofOrder).filter((r) => r[7] >= 0));
  for (const row of taking) {
    const standing = Math.min(-row[7], Math.max(0, rows.reduce((s, r) => s + r[7], 0)));
    if (standing > 0) {
      shareOut(0, rows.length, row, standing);
    }
    const over = -row[7] - standing;
    if (over > 0) {
      rows.push([...row.slice(0, 5), 1, -over, -over, row[8], 0] as unknown as Row);
    }
  }
  floor(0, -1, shop.standard_ppm);
  settle(0);

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
  return { rows, total, refused };
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
