import type { Answers, Asked, Unit } from './answers';

/** Whether it is a single box to tick, with its question beside it. */
export const isBox = (asked: Asked): boolean => asked.type === 'yes_no' && asked.settings.box === true && !asked.given_by_page;

/** A no for each single box among what is asked of one place that was left without a tick: whoever sends it saw it, and said no. */
export function boxesLeft(asked: Asked[], answers: Answers): Answers {
  const left = asked.filter((a) => isBox(a) && answers[a.field] === undefined && (a.default ?? null) === null);
  return Object.fromEntries(left.map((a) => [a.field, false]));
}

/** The answers of a line and of each one of it, with a no for each box that was left without a tick; undefined where none was. */
export function withBoxesLeft<T extends { answers: Answers; units: Unit[] }>(asked: Asked[], line: T): T | undefined {
  const of = (unit: string | null) => asked.filter((a) => a.unit_id === unit);
  const own = boxesLeft(of(null), line.answers);
  const units = line.units.map((u) => ({ ...u, answers: { ...u.answers, ...boxesLeft(of(u.id), u.answers) } }));
  const count = (all: Unit[]) => all.reduce((sum, u) => sum + Object.keys(u.answers).length, 0);
  return Object.keys(own).length || count(units) > count(line.units) ? { ...line, answers: { ...line.answers, ...own }, units } : undefined;
}
