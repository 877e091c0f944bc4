import type { Schemas } from '../../shared/api/client';
import type { Draft, DraftField } from './draft';

type Scope = Schemas['ProductScope'];

/** What keeps a scope from being said: of a large catalogue, what a whole category asks cannot be listed product by product. */
export const TOO_MANY = 'A whole category asks it, of more products than can be listed. Say when it is asked: “the product is not …”.';

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

/** A scope with a whole category asked or not. Nothing where that cannot be said. */
export function withCategory({ field, asks, ...rest }: DraftField, category: string, on: boolean, draft: Draft): Scope | undefined {
  const scope: Scope = field.asked_of ?? { all: true };
  const inside = draft.products.filter((p) => p.categories.includes(category)).map((p) => p.code);
  const listed = (scope.products ?? []).filter((c) => !inside.includes(c));
  if (on) return { ...scope, categories: [...(scope.categories ?? []), category], products: listed };
  if (!isWhole(draft)) {
    const categories = scope.all ? draft.categories.map((c) => c.name) : (scope.categories ?? []);
    return categories.includes(category)
      ? { ...scope, all: false, categories: categories.filter((c) => c !== category), products: listed }
      : undefined;
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
