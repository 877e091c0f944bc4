import type { Schemas } from '../../shared/api/client';

export type Value = Schemas['AnswerValue'];
export type Fact = Schemas['FactView'];
export type Explained = Schemas['Explained'];

/** One fact compared with a value. */
export interface Test {
  fact: string;
  is: string;
  value?: Value;
}
/** Conditions joined: under one of the three members. */
export interface Group {
  all?: Condition[];
  any?: Condition[];
  none?: Condition[];
}
/** Something tested of every line or unit. */
export interface Over {
  lines?: string;
  units?: string;
  is?: string;
  value?: number;
  where?: Condition | null;
}
export type Condition = Test | Group | Over;

export const joins = { all: 'all of these', any: 'any of these', none: 'none of these' } as const;
export type Join = keyof typeof joins;

export const quantifiers: Record<string, string> = { any: 'at least one', every: 'every', none: 'no', count: 'how many' };

export const isTest = (c: Condition): c is Test => 'fact' in c;
export const isOver = (c: Condition): c is Over => 'lines' in c || 'units' in c;
export const joinOf = (group: Group): Join => (group.any ? 'any' : group.none ? 'none' : 'all');
export const partsOf = (group: Group): Condition[] => group[joinOf(group)] ?? [];

/** The condition as a group, whatever it is: a single test is the only part of one. */
export const asGroup = (c: Condition | null | undefined): Group => (!c ? { all: [] } : isTest(c) || isOver(c) ? { all: [c] } : c);

/** The keys of all fields whose answers a condition reads. */
export function fieldsIn(c: Condition | null | undefined): string[] {
  if (!c) return [];
  if (isTest(c)) return c.fact.startsWith('answer.') ? [c.fact.slice('answer.'.length)] : [];
  return isOver(c) ? fieldsIn(c.where) : partsOf(c).flatMap(fieldsIn);
}

const rank = { order: 0, line: 1, unit: 2 };

/** Whether a fact can be tested of something of a level. */
export const isInReach = (fact: Fact, level: Schemas['Level']) => rank[fact.level] <= rank[level];
