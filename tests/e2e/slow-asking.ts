// What is asked of a cart, and what its answers are, worked out a second time from the words of the design (section 4): conditions, sections, what a field
// holds at first, and answers that are worked out. It shares nothing with the core.
import { Fraction, greatest, least } from './fraction';

export type Answer = string | number | boolean | string[] | Record<string, string>;
/** By field; null where it was emptied. */
export type Entered = Record<string, Answer | null>;
export type Answers = Record<string, Answer>;

/** A group of conditions, or a fact and what it is compared with: the name of the relation is the member. */
export interface Condition {
  together?: Condition[];
  either?: Condition[];
  neither?: Condition[];
  [member: string]: Answer | Condition[] | undefined;
}
interface Term {
  value?: number | null;
  fact?: string | null;
  else?: number | null;
}
interface FormulaRow {
  do: string;
  of?: Term | null;
  to?: number;
  bands?: { over: number; gives: number }[];
}
export interface AskedField {
  key: string;
  type: string;
  level: 'order' | 'line' | 'unit';
  step: string;
  section: string | null;
  default: Answer | null;
  asked_of: { all: boolean; products: string[] };
  when: Condition | null;
  settings: { choices?: { key: string; code?: string; weight_grams?: number }[]; decimals?: number; working?: FormulaRow[] };
}
export interface AskedSection {
  key: string;
  opening: { en?: string };
  when: Condition | null;
}
interface Register {
  fields: AskedField[];
  sections: AskedSection[];
}

/** A place in a cart: the answers that count there, those of wider levels among them, and the facts. */
export interface Place {
  group: string;
  quantity?: number;
  product?: string;
  answers: Answers;
}

const BOUND = new Fraction(10n ** 15n);

export function holds(condition: Condition | null, at: Place): boolean {
  if (condition === null) return true;
  if (condition.together) return condition.together.every((c) => holds(c, at));
  if (condition.either) return condition.either.some((c) => holds(c, at));
  if (condition.neither) return !condition.neither.some((c) => holds(c, at));
  const fact = condition.of as string;
  const [is, value] = Object.entries(condition).find(([member]) => member !== 'of')!;
  const seen: Answer | undefined =
    fact === 'group' ? at.group : fact === 'quantity' ? at.quantity : at.answers[fact.replace('answer.', '')];
  if (is === 'was_given') return seen !== undefined;
  if (is === 'was_not_given') return seen === undefined;
  if (seen === undefined) return false;
  switch (is) {
    case 'is_among':
      return (value as string[]).includes(seen as string);
    case 'is_not_among':
      return !(value as string[]).includes(seen as string);
    case 'is':
      return seen === value;
    case 'is_not':
      return seen !== value;
    case 'over':
      return (seen as number) > (value as number);
    case 'under':
      return (seen as number) < (value as number);
    case 'at_least':
      return (seen as number) >= (value as number);
    default:
      return (seen as number) <= (value as number);
  }
}

/** The answers that count at a place: of what is asked there, as entered or as it holds at first; field by field, each before what hangs on it. */
export function answersAt(register: Register, level: AskedField['level'], entered: Entered, wider: Place): Answers {
  const at = { ...wider, answers: { ...wider.answers } };
  const own: Answers = {};
  const take = (key: string, answer: Answer | undefined): void => {
    if (answer !== undefined) own[key] = at.answers[key] = answer;
  };
  const open = new Map<string, boolean>();
  const isOpen = (key: string): boolean => {
    const section = register.sections.find((s) => s.key === key)!;
    if (!open.has(key)) {
      const asked = holds(section.when, at);
      if (asked && section.opening.en) take(key, entered[key] ?? undefined);
      open.set(key, asked && (!section.opening.en || own[key] === true));
    }
    return open.get(key)!;
  };
  for (const field of register.fields.filter((f) => f.level === level)) {
    const isOfProduct = field.asked_of.all || (at.product !== undefined && field.asked_of.products.includes(at.product));
    if (!isOfProduct || (field.section !== null && !isOpen(field.section)) || !holds(field.when, at)) continue;
    take(
      field.key,
      field.settings.working ? workedOut(field, at) : ((field.key in entered ? entered[field.key] : canonical(field.default)) ?? undefined),
    );
  }
  return own;
}

// What a control holds at first is a text like any that is typed: in its canonical form, Unicode NFC with its ends trimmed (the design, section 4).
const canonical = (held: Answer | null) => (typeof held === 'string' ? held.normalize('NFC').trim() : held);

// Exact until the end, and then to its decimals, half away from zero.
function workedOut(field: AskedField, at: Place): number | undefined {
  let result: Fraction | undefined;
  for (const row of field.settings.working!) {
    const given = row.of ? (row.of.fact ? (at.answers[row.of.fact.replace('answer.', '')] ?? row.of.else) : row.of.value) : 0;
    if (given === undefined || given === null) return undefined;
    const operand = Fraction.of(given as number);
    if (row.do === 'take') {
      result = operand;
      continue;
    }
    result = step(row, result!, operand);
    if (!result) return undefined;
  }
  const unit = 10n ** BigInt(field.settings.decimals ?? 0);
  const rounded = new Fraction(result!.times(new Fraction(unit)).nearest(), unit);
  const size = greatest(rounded, new Fraction(-rounded.n, rounded.d));
  return size.over(BOUND) || size.is(BOUND) ? undefined : Number(rounded.n) / Number(rounded.d);
}

function step(row: FormulaRow, before: Fraction, operand: Fraction): Fraction | undefined {
  const to = Fraction.of(row.to ?? 1);
  const multiple = (n: bigint) => new Fraction(n).times(to);
  switch (row.do) {
    case 'plus':
      return before.plus(operand);
    case 'minus':
      return before.minus(operand);
    case 'times':
      return before.times(operand);
    case 'divided_by':
      return operand.n === 0n ? undefined : before.dividedBy(operand);
    case 'at_least':
      return greatest(before, operand);
    case 'at_most':
      return least(before, operand);
    case 'round_up':
      return multiple(before.dividedBy(to).ceiling());
    case 'round_down':
      return multiple(before.dividedBy(to).floor());
    case 'round':
      return multiple(before.dividedBy(to).nearest());
    default: {
      const band = row.bands!.filter((b) => before.over(Fraction.of(b.over))).at(-1);
      return band && Fraction.of(band.gives);
    }
  }
}

/** Fields in the order in which they are shown: by step, and a section where the first of its fields stands. */
export function shown<F extends { key: string; step: string; section: string | null }>(fields: F[]): F[] {
  const place = (f: F) => (f.section === null ? fields.indexOf(f) : fields.findIndex((o) => o.section === f.section));
  const steps = ['product_page', 'cart', 'contact', 'delivery', 'payment'];
  return fields
    .map((f, i) => ({ f, i }))
    .sort((a, b) => steps.indexOf(a.f.step) - steps.indexOf(b.f.step) || place(a.f) - place(b.f) || a.i - b.i)
    .map(({ f }) => f);
}
