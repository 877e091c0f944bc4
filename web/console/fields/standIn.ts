import { ref, shallowRef } from 'vue';
import type { Answers, Unit } from '../../entry/answers';
import type { Explained } from './condition';

/** A line of a stand-in cart, with what was answered of it. */
export interface StandInLine {
  id: string;
  product: string;
  variant?: string;
  quantity: number;
  answers: Answers;
  units: Unit[];
}

/** A stand-in cart: what is in it, who has it, and what was answered so far. */
export interface StandIn {
  lines: StandInLine[];
  group: string;
  country: string;
  answers: Answers;
}

/** How much of the form is shown: what is at hand and what it reads, or all that its step asks. */
export type Shown = 'field' | 'step';

/** The conditions of the field at hand, part by part, as the first stand-in cart meets them. */
export const explained = shallowRef<Record<string, Explained>>();

/** The stand-in carts: kept while one goes from field to field. */
export const standIns = ref<StandIn[]>([]);

/** The language in which they are spoken to (BCP 47). */
export const language = ref('en');

/** How much of the form they show. */
export const shownOf = ref<Shown>('field');
