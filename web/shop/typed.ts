import type { Answers, Unit } from '../entry/answers';

/** A line and each one of it, as a form draws them. */
export interface DrawnLine {
  answers: Answers;
  units: Unit[];
}

/** What was typed of a line: nothing else, so that it replaces nothing else, such as what another window put into the cart meanwhile. */
export interface TypedLine {
  answers: Answers;
  units: Record<string, Answers>;
}

export const nothingTyped = (): TypedLine => ({ answers: {}, units: {} });

export const isEmpty = (of: object): boolean => Object.keys(of).length === 0;

/** What a form gives back is all it was given with one answer changed; only that one was typed. */
export const changedIn = (before: Answers, now: Answers): Answers =>
  Object.fromEntries(Object.entries(now).filter(([field, answer]) => answer !== before[field]));

/** A line with what was typed over it; one that was typed of and is not in it yet comes after the others, as far as there is room. */
export function overlaid(line: { quantity: number; answers: Answers; units?: Unit[] | null }, typed: TypedLine | undefined): DrawnLine {
  const units = line.units ?? [];
  const others = Object.keys(typed?.units ?? {})
    .filter((id) => !units.some((u) => u.id === id))
    .slice(0, Math.max(0, line.quantity - units.length));
  return {
    answers: { ...line.answers, ...typed?.answers },
    units: [...units, ...others.map((id) => ({ id, answers: {} }))].map((u) => ({
      ...u,
      answers: { ...u.answers, ...typed?.units[u.id] },
    })),
  };
}

/** Adds to what was typed what a form gave back; whether there was something. */
export function takeTyped(typed: TypedLine, before: DrawnLine, now: DrawnLine): boolean {
  const own = changedIn(before.answers, now.answers);
  const units = now.units
    .map((u) => [u.id, changedIn(before.units.find((b) => b.id === u.id)?.answers ?? {}, u.answers)] as const)
    .filter(([, changed]) => !isEmpty(changed));
  Object.assign(typed.answers, own);
  for (const [unit, changed] of units) typed.units[unit] = { ...typed.units[unit], ...changed };
  return !isEmpty(own) || units.length > 0;
}

/** As the shop's API takes it. */
export const unitsOf = (typed: TypedLine): Unit[] => Object.entries(typed.units).map(([id, answers]) => ({ id, answers }));
