// What carts cost, worked out a second time from the words of the design (section 4, "Order of pricing"): in exact fractions of big integers,
// without any thought for speed, and sharing nothing with the core.

import { Fraction, greatest, least, whole } from './fraction';
import {
  answersAt,
  holds,
  shown,
  type Answer,
  type Answers,
  type AskedSection,
  type Condition,
  type Entered,
  type Place,
} from './slow-asking';
import { codeOf, timesTaken, weightOf, type CodeRule, type CodedField } from './slow-codes';

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
  when: Condition | null;
  tax_ppm: number | null;
}
interface Field extends CodedField {
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
  takes_weight: boolean;
}
export interface Shop {
  currency: string;
  digits: number;
  include_tax: boolean;
  standard_ppm: number;
  coupons: { code: string; ppm: number; minor: number }[];
  fields: Field[];
  sections: AskedSection[];
  codes: CodeRule;
  items: { code: string; price: number; tax_ppm: number | null; weight: number }[];
}
interface Line {
  product: string;
  code: string;
  quantity: number;
  price: number;
  weight: number;
  tax_ppm: number | null;
  variant: string | null;
  answers: Entered;
  units: Entered[];
}
export interface Cart {
  group: string;
  coupon: string;
  lines: Line[];
  answers: Entered;
}
/** A line with what is asked of it, and the places at which conditions are tested. */
interface AnsweredLine extends Omit<Line, 'answers' | 'units'> {
  answers: Answers;
  units: Answers[];
  at: Place;
  unitsAt: Place[];
}
type Row = [
  kind: string,
  line: number,
  unit: number,
  field: string | null,
  choice: string | null,
  quantity: number,
  unitMinor: number,
  sum: number,
  ppm: number,
  tax: number,
];

const million = 1_000_000n;
const characters = new Intl.Segmenter('en', { granularity: 'grapheme' });

function countOf(price: { by: Price['by']; choice: string | null }, answer: Answer): Fraction {
  if (price.choice !== null) {
    return whole(timesTaken(answer, price.choice));
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
      return whole(
        String(answer)
          .split(/\s+/u)
          .filter((w) => /[\p{L}\p{Nd}]/u.test(w)).length,
      );
    case 'amount':
      return Fraction.of(answer as number);
    default:
      return Array.isArray(answer)
        ? whole(answer.length)
        : typeof answer === 'object'
          ? whole(Object.values(answer).reduce((sum, n) => sum + Number(n), 0))
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
    const band = tariff.bands.filter((b) => count.over(Fraction.of(b.over))).at(-1);
    exact = whole((band ?? tariff).minor);
  } else {
    exact = [{ over: 0, minor: tariff.minor }, ...tariff.bands].reduce((sum, band, i) => {
      const end = tariff.bands[i] ? least(Fraction.of(tariff.bands[i].over), count) : count;
      const pieces = end.minus(greatest(Fraction.of(band.over), whole(included)));
      return pieces.over(whole(0)) ? sum.plus(pieces.times(whole(band.minor))) : sum;
    }, whole(0));
  }
  const rounded = exact.rounded();
  return tariff.ceiling_minor === null ? rounded : Math.max(-tariff.ceiling_minor, Math.min(tariff.ceiling_minor, rounded));
}

// What is asked of a line and of each of its units, under what is answered for the order.
function answered(shop: Shop, line: Line, order: Place): AnsweredLine {
  const facts = { ...order, quantity: line.quantity, product: line.product };
  const answers = answersAt(shop, 'line', line.answers, facts);
  const at = { ...facts, answers: { ...order.answers, ...answers } };
  const units = line.units.map((entered) => answersAt(shop, 'unit', entered, at));
  return { ...line, answers, units, at, unitsAt: units.map((own) => ({ ...at, answers: { ...at.answers, ...own } })) };
}

export function priceCart(shop: Shop, given: Cart): { rows: Row[]; total: number; refused: boolean; weight: number; codes: string[] } {
  const rows: Row[] = [];
  const orderAnswers = answersAt(shop, 'order', given.answers, { group: given.group, answers: {} });
  const orderAt: Place = { group: given.group, answers: orderAnswers };
  const cart = { ...given, answers: orderAnswers, lines: given.lines.map((line) => answered(shop, line, orderAt)) };
  const fields = shown(shop.fields);
  // Of a kind those of the order come first, then those of lines, then those of units.
  const levels = ['order', 'line', 'unit'];
  const ordered = [...fields].sort((a, b) => levels.indexOf(a.level) - levels.indexOf(b.level));
  const pricesOf = (kind: Price['kind'], level?: Field['level']) =>
    ordered
      .filter((f) => !level || f.level === level)
      .flatMap((field) => field.prices.filter((p) => p.kind === kind).map((price) => ({ field, price })));

  const tariffOf = (price: Price, line?: AnsweredLine) => {
    const fitting = price.for.filter(
      (f) => (f.group === null || f.group === cart.group) && (f.variant === null || f.variant === line?.variant),
    );
    const closest = [...fitting].sort((a, b) => (b.variant ? 2 : 0) + (b.group ? 1 : 0) - (a.variant ? 2 : 0) - (a.group ? 1 : 0))[0];
    return closest?.tariff ?? price.tariff;
  };

  // What one answer comes to for one, or undefined where the price does not apply.
  const amount = (field: Field, price: Price, answer: Answer | undefined, at: Place, line?: AnsweredLine): number | undefined => {
    if (answer === undefined || !holds(price.when, at)) {
      return undefined;
    }
    const count = countOf(price, answer);
    if (!count.over(whole(0))) {
      return undefined;
    }
    const included =
      price.included + (price.choice !== null && price.kind !== 'for_the_goods' ? includedOf(field, price.choice, answer, at, line) : 0);
    if (!count.over(whole(included))) {
      return included === 0 ? undefined : 0;
    }
    return amountOf(price, tariffOf(price, line), count, included, shop.digits);
  };

  // All picks laid out one by one, the cheapest first and then as listed; the first so many are included.
  const includedOf = (field: Field, choice: string, answer: Answer, at: Place, line?: AnsweredLine): number => {
    const costOf = (key: string) =>
      field.prices
        .filter((p) => p.choice === key && p.kind !== 'percent' && p.kind !== 'for_the_goods' && holds(p.when, at))
        .reduce((sum, p) => sum + amountOf(p, tariffOf(p, line), whole(1), 0, shop.digits), 0) +
      field.uses
        .filter((u) => u.takes_price && u.choice === key)
        .reduce((sum, u) => sum + u.quantity * shop.items.find((i) => i.code === u.item)!.price, 0);
    const laidOut = field.settings.choices!.flatMap(({ key }, place) =>
      Array.from({ length: timesTaken(answer, key) }, () => ({ key, place, cost: costOf(key) })),
    );
    laidOut.sort((a, b) => a.cost - b.cost || a.place - b.place);
    return laidOut.slice(0, field.included_picks).filter((p) => p.key === choice).length;
  };

  const add = (
    kind: string,
    line: number,
    unit: number,
    field: Field | null,
    price: Price | null,
    quantity: number,
    each: number,
    ppm: number,
  ) => {
    rows.push([kind, line, unit, field?.key ?? null, price?.choice ?? null, quantity, each, quantity * each, price?.tax_ppm ?? ppm, 0]);
  };
  const share = (price: Price, goods: number, line?: AnsweredLine): number => {
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
  const freeOf = (field: Field, use: Use, answer: Answer | undefined, at: Place, line?: AnsweredLine): number => {
    if (answer === undefined) {
      return 0;
    }
    const first = Math.max(0, ...field.prices.filter((p) => p.choice === use.choice && holds(p.when, at)).map((p) => p.included));
    return (first + (use.choice === null ? 0 : includedOf(field, use.choice, answer, at, line))) * use.quantity;
  };
  const component = (field: Field, use: Use, line: number, unit: number, used: number, free: number) => {
    const item = shop.items.find((i) => i.code === use.item)!;
    weight += use.takes_weight ? item.weight * used : 0;
    if (use.takes_price && used > free) {
      rows.push([
        'Component',
        line,
        unit,
        field.key,
        use.choice,
        used - free,
        item.price,
        (used - free) * item.price,
        item.tax_ppm ?? shop.standard_ppm,
        0,
      ]);
    }
  };
  // In the order in which the shopper meets the questions: step by step.
  const uses = fields.flatMap((field) => field.uses.map((use) => ({ field, use })));

  const sumAtFrom = (from: number, ppm: number) =>
    rows
      .slice(from)
      .filter((r) => r[8] === ppm)
      .reduce((s, r) => s + r[7], 0);
  const ratesFrom = (from: number) => [...new Set(rows.slice(from).map((r) => r[8]))].sort((a, b) => a - b);

  // What is taken off, by what stands at each rate: rows like the one given, at some place.
  const shareOut = (from: number, at: number, like: Row, off: number) => {
    const rates = ratesFrom(from);
    const weights = rates.map((ppm) => Math.max(0, sumAtFrom(from, ppm)));
    const all = weights.reduce((s, w) => s + w, 0);
    const shares = shared(
      weights.map((w) => new Fraction(BigInt(off) * BigInt(w), BigInt(all))),
      off,
    );
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
  let weight = 0;
  let refused = false;
  cart.lines.forEach((line, at) => {
    const from = rows.length;
    const ppm = line.tax_ppm ?? shop.standard_ppm;
    const asGoods = pricesOf('for_the_goods')
      .map(({ field, price }) => amount(field, price, line.answers[field.key], line.at, line))
      .filter((a) => a !== undefined);
    const answered = asGoods[0];
    refused ||= asGoods.length > 1;
    const each = answered ?? line.price;
    add('Goods', at, -1, null, null, line.quantity, each, ppm);
    allGoods += each * line.quantity;

    for (const kind of ['per_unit', 'percent'] as const) {
      for (const { field, price } of pricesOf(kind, 'line').concat(pricesOf(kind, 'unit'))) {
        const places =
          field.level === 'line'
            ? [{ answer: line.answers[field.key], unit: -1, times: line.quantity, where: line.at }]
            : line.units.map((u, unit) => ({ answer: u[field.key], unit, times: 1, where: line.unitsAt[unit]! }));
        for (const { answer, unit, times, where } of places) {
          if (kind === 'percent') {
            const applies = answer !== undefined && holds(price.when, where) && countOf(price, answer).over(whole(0));
            const sum = applies ? share(price, each * times, line) : 0;
            if (sum !== 0) {
              add('Answer', at, unit, field, price, 1, sum, ppm);
            }
          } else {
            const one = amount(field, price, answer, where, line);
            if (one) {
              add('Answer', at, unit, field, price, times, one, ppm);
            }
          }
        }
      }
    }
    for (const { field, price } of pricesOf('once_per_line')) {
      const all =
        field.level === 'line'
          ? [{ answer: line.answers[field.key], unit: -1, where: line.at }]
          : line.units.map((u, unit) => ({ answer: u[field.key], unit, where: line.unitsAt[unit]! }));
      const priced = all.map(({ answer, unit, where }) => ({ unit, sum: amount(field, price, answer, where, line) })).filter((p) => p.sum);
      const most = priced.find((p) => p.sum === Math.max(...priced.map((o) => o.sum!)));
      if (most?.sum) {
        add('Answer', at, most.unit, field, price, 1, most.sum, ppm);
      }
    }
    for (const { field, use } of uses) {
      if (field.level === 'line' && use.per !== 'order') {
        const times = use.per === 'unit' ? line.quantity : 1;
        const answer = line.answers[field.key];
        component(field, use, at, -1, usedOf(use, answer) * times, freeOf(field, use, answer, line.at, line) * times);
      } else if (field.level === 'unit' && use.per === 'unit') {
        line.units.forEach((u, unit) =>
          component(field, use, at, unit, usedOf(use, u[field.key]), freeOf(field, use, u[field.key], line.unitsAt[unit]!, line)),
        );
      } else if (field.level === 'unit' && use.per === 'line') {
        component(field, use, at, -1, Math.max(0, ...line.units.map((u) => usedOf(use, u[field.key]))), 0);
      }
    }
    floor(from, at, ppm);
    settle(from);
  });
  const ofOrder = rows.length;

  for (const { field, price } of pricesOf('once_per_order')) {
    const all =
      field.level === 'order'
        ? [amount(field, price, cart.answers[field.key], orderAt)]
        : cart.lines.flatMap((line) =>
            (field.level === 'line' ? [line.at] : line.unitsAt).map((at, i) =>
              amount(field, price, (field.level === 'line' ? line.answers : line.units[i]!)[field.key], at, line),
            ),
          );
    const priced = all.filter((a): a is number => a !== undefined && a !== 0);
    const most = priced.length > 0 ? Math.max(...priced) : 0;
    if (most !== 0) {
      add('Answer', -1, -1, field, price, 1, most, shop.standard_ppm);
    }
  }
  for (const { field, price } of pricesOf('percent', 'order')) {
    const answer = cart.answers[field.key];
    const sum = answer !== undefined && holds(price.when, orderAt) && countOf(price, answer).over(whole(0)) ? share(price, allGoods) : 0;
    if (sum !== 0) {
      add('Answer', -1, -1, field, price, 1, sum, shop.standard_ppm);
    }
  }
  for (const { field, use } of uses) {
    if (use.per === 'order') {
      const all =
        field.level === 'order'
          ? [cart.answers[field.key]]
          : cart.lines.flatMap((line) => (field.level === 'line' ? [line.answers] : line.units).map((a) => a[field.key]));
      component(
        field,
        use,
        -1,
        -1,
        Math.max(0, ...all.map((a) => usedOf(use, a))),
        field.level === 'order' ? freeOf(field, use, all[0], orderAt) : 0,
      );
    }
  }
  // What adds stands before what takes off; that is shared over the rates of all that stands, and what is more than that is lifted again.
  const taking = rows.slice(ofOrder).filter((r) => r[7] < 0);
  rows.splice(ofOrder, rows.length, ...rows.slice(ofOrder).filter((r) => r[7] >= 0));
  for (const row of taking) {
    const standing = Math.min(
      -row[7],
      Math.max(
        0,
        rows.reduce((s, r) => s + r[7], 0),
      ),
    );
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
      const shares = shared(
        weights.map((w) => new Fraction(BigInt(off) * BigInt(w), BigInt(all))),
        off,
      );
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
    shared(
      at.map((r) => taxOf(r[7])),
      tax,
    ).forEach((s, i) => (at[i]![9] = s));
    total += shop.include_tax ? 0 : tax;
  }
  for (const line of cart.lines) {
    weight += line.weight * line.quantity;
    for (const field of fields) {
      weight +=
        field.level === 'line'
          ? weightOf(field, line.answers[field.key]) * line.quantity
          : field.level === 'unit'
            ? line.units.reduce((sum, u) => sum + weightOf(field, u[field.key]), 0)
            : 0;
    }
  }
  weight += fields.filter((f) => f.level === 'order').reduce((sum, f) => sum + weightOf(f, cart.answers[f.key]), 0);
  return { rows, total, refused, weight, codes: cart.lines.map((line) => codeOf(line.code, fields, line.answers, shop.codes)) };
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
