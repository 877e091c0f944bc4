import type { Evaluated } from '../entry/answers';
import type { Schemas } from '../shared/api/client';
import { say } from '../shared/wording';

type Step = Schemas['StepView'];

const standard = ['contact', 'delivery', 'payment', 'cart'] as const;

/** What stands above a step. */
export function headingOf(step: Step): string {
  const known = standard.find((s) => s === step.key);
  return known ? say(`shop.step_${known}`) : step.name;
}

/** The steps that this cart passes after the product page: one where nothing is asked is left out, but never contact and payment. */
export const stepsOf = (evaluation: Evaluated): Step[] =>
  evaluation.steps.filter((s) => s.key !== 'product_page' && (s.asks || ['cart', 'contact', 'payment'].includes(s.key)));

/** The page of a step. */
export const pageOf = (step: string): string => (step === 'cart' || step === 'product_page' ? '/cart' : `/checkout/${step}`);

/** The page after a step. */
export function pageAfter(evaluation: Evaluated, step: string): string {
  const index = evaluation.steps.findIndex((s) => s.key === step);
  const passed = stepsOf(evaluation).map((s) => s.key);
  return pageOf(evaluation.steps.slice(index + 1).find((s) => passed.includes(s.key))?.key ?? 'payment');
}
