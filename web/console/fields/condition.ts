import type { Schemas } from '../../shared/api/client';

export type Value = Schemas['AnswerValue'];
export type Fact = Schemas['FactView'];
export type Explained = Schemas['Explained'];

/** One fact compared with a value, or with another fact: the relation is the member beside it, and true where it compares with nothing. */
export type Test = { of: string } & Record<string, Value | null>;
/** What a test compares with where that is another fact. */
export interface Other {
  of: string;
}
/** Conditions joined: under one of the three members. */
export interface Group {
  together?: Condition[];
  either?: Condition[];
  neither?: Condition[];
}
/** Something tested of every line or unit; of a count the relation is a member. */
export type Over = { lines?: string; units?: string; where?: Condition | null } & Record<string, unknown>;
export type Condition = Test | Group | Over;

export const joins = { together: 'all of these', either: 'any of these', neither: 'none of these' } as const;
export type Join = keyof typeof joins;

export const quantifiers: Record<string, string> = { any: 'at least one', every: 'every', none: 'no', count: 'how many' };

export const isTest = (c: Condition): c is Test => 'of' in c;
export const isOver = (c: Condition): c is Over => 'lines' in c || 'units' in c;
export const joinOf = (group: Group): Join => (group.either ? 'either' : group.neither ? 'neither' : 'together');
export const partsOf = (group: Group): Condition[] => group[joinOf(group)] ?? [];

/** The condition as a group, whatever it is: a single test is the only part of one. */
export const asGroup = (c: Condition | null | undefined): Group => (!c ? { together: [] } : isTest(c) || isOver(c) ? { together: [c] } : c);

const notRelations = new Set(['of', 'lines', 'units', 'where']);

/** The other fact that a test compares with; undefined where it is a value. */
export const otherIn = (c: Test): string | undefined => (relationIn(c)[1] as Partial<Other> | null | undefined)?.of;

/** The relation of a test, or of a count; and what it compares with. */
export function relationIn(c: Test | Over): [relation: string | undefined, value: Value | null | undefined] {
  const found = Object.entries(c).find(([member]) => !notRelations.has(member));
  return found ? [found[0], found[1] as Value | null] : [undefined, undefined];
}

/** A test of a fact. */
export const testOf = (fact: string, relation: string, value: Value | Other | null): Test => ({ of: fact, [relation]: value }) as Test;

/** The keys of all fields whose answers a condition reads. */
export function fieldsIn(c: Condition | null | undefined): string[] {
  if (!c) return [];
  if (isTest(c)) return [c.of, otherIn(c) ?? ''].filter((f) => f.startsWith('answer.')).map((f) => f.slice('answer.'.length));
  return isOver(c) ? fieldsIn(c.where) : partsOf(c).flatMap(fieldsIn);
}

const rank = { order: 0, line: 1, unit: 2 };

/** Whether a fact can be tested of something of a level. */
export const isInReach = (fact: Fact, level: Schemas['Level']) => rank[fact.level] <= rank[level];
