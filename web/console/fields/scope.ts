import type { Schemas } from '../../shared/api/client';
import type { Draft, DraftField } from './draft';

type Scope = Schemas['ProductScope'];

/** What keeps a scope from being said: of a large catalogue, what a whole category or tag asks cannot be listed product by product. */
export const TOO_MANY =
  'A whole category or tag asks it, of more products than can be listed. Say when it is asked: “the product is not …”.';

const isWhole = (draft: Draft) => draft.products.length === draft.product_count;

/** A scope with one product asked or not: what was listed as a category or tag is listed product by product where one of it is left out. Nothing where that cannot be. */
export function withProduct({ field, asks }: DraftField, code: string, on: boolean, draft: Draft): Scope | undefined {
  const scope: Scope = field.asked_of ?? { all: true };
  if (on) return { ...scope, products: [...(scope.products ?? []), code] };
  const { categories: own, tags } = draft.products.find((p) => p.code === code) ?? { categories: [] as string[], tags: [] as string[] };
  const categories = (scope.categories ?? []).filter((c) => !own.includes(c));
  const kept = (scope.tags ?? []).filter((t) => !tags.includes(t));
  const isListed = !scope.all && categories.length === (scope.categories ?? []).length && kept.length === (scope.tags ?? []).length;
  if (isListed) return { ...scope, products: (scope.products ?? []).filter((c) => c !== code) };
  if (!isWhole(draft)) return undefined;
  const covered = (p: Draft['products'][number]) =>
    p.categories.some((c) => categories.includes(c)) || p.tags.some((t) => kept.includes(t));
  const rest = draft.products.filter((p) => asks.includes(p.code) && p.code !== code && !covered(p)).map((p) => p.code);
  return { all: false, categories, tags: kept, products: rest, groups: scope.groups ?? [] };
}

/** Products that have a category or a tag in common. */
export interface Family {
  key: string;
  by: 'categories' | 'tags';
  name: string;
  /** What is said of all of them. */
  all: string;
  /** Those of them that are at hand. */
  products: Draft['products'];
}

/** The categories of the products; with tags, also those by which the draft says of which products something is asked. */
export function familiesOf({ categories, named_tags, products }: Draft, tagged: boolean): Family[] {
  const family = (by: Family['by'], name: string, all: string): Family => ({
    key: `${by}:${name}`,
    by,
    name,
    all,
    products: products.filter((p) => p[by].includes(name)),
  });
  return [
    ...categories.map((c) => family('categories', c.name, `all of ${c.name}`)),
    ...(tagged ? named_tags.map((t) => family('tags', t.name, `tagged ${t.name}`)) : []),
  ];
}

/** A scope with a whole category or tag asked or not. Nothing where that cannot be said. */
export function withFamily(
  { field, asks, ...rest }: DraftField,
  { by, name, products }: Family,
  on: boolean,
  draft: Draft,
): Scope | undefined {
  const scope: Scope = field.asked_of ?? { all: true };
  const inside = products.map((p) => p.code);
  const listed = (scope.products ?? []).filter((c) => !inside.includes(c));
  if (on) return { ...scope, [by]: [...(scope[by] ?? []), name], products: listed };
  if (!isWhole(draft)) {
    const said = scope.all && by === 'categories' ? draft.categories.map((c) => c.name) : (scope[by] ?? []);
    return said.includes(name) ? { ...scope, all: false, [by]: said.filter((n) => n !== name), products: listed } : undefined;
  }
  return inside.reduce<Scope | undefined>(
    (left, code) =>
      left &&
      withProduct(
        { ...rest, field: { ...field, asked_of: left }, asks: asks.filter((c) => !inside.includes(c) || c === code) },
        code,
        false,
        draft,
      ),
    scope,
  );
}
