import type { Schemas } from '../../shared/api/client';
import type { Draft } from './draft';

type Scope = Schemas['ProductScope'];

/** A scope with one product asked or not: what was listed as a category or tag is listed product by product where one of it is left out. */
export function withProduct(scope: Scope, asks: string[], code: string, on: boolean, products: Draft['products']): Scope {
  if (on) return { ...scope, products: [...(scope.products ?? []), code] };
  const { categories: own, tags } = products.find((p) => p.code === code) ?? { categories: [] as string[], tags: [] as string[] };
  const categories = (scope.categories ?? []).filter((c) => !own.includes(c));
  const kept = (scope.tags ?? []).filter((t) => !tags.includes(t));
  const covered = (p: Draft['products'][number]) =>
    p.categories.some((c) => categories.includes(c)) || p.tags.some((t) => kept.includes(t));
  const rest = products.filter((p) => asks.includes(p.code) && p.code !== code && !covered(p)).map((p) => p.code);
  return { all: false, categories, tags: kept, products: rest, groups: scope.groups ?? [] };
}

/** A scope with a whole category asked or not. */
export function withCategory(scope: Scope, asks: string[], category: string, on: boolean, products: Draft['products']): Scope {
  const inside = products.filter((p) => p.categories.includes(category)).map((p) => p.code);
  if (on)
    return {
      ...scope,
      categories: [...(scope.categories ?? []), category],
      products: (scope.products ?? []).filter((c) => !inside.includes(c)),
    };
  return inside.reduce(
    (left, code) =>
      withProduct(
        left,
        asks.filter((c) => !inside.includes(c) || c === code),
        code,
        false,
        products,
      ),
    scope,
  );
}
