import { ref, shallowRef } from 'vue';
import type { Answers, Unit } from '../../entry/answers';
import type { Explained } from './condition';

/** A stand-in cart: what is in it, who has it, and what was answered so far. */
export interface StandIn {
  product: string;
  variant?: string;
  quantity: number;
  group: string;
  country: string;
  answers: Answers;
  line: Answers;
  units: Unit[];
}

/** The conditions of the field at hand, part by part, as the first stand-in cart meets them. */
export const explained = shallowRef<Record<string, Explained>>();

/** The stand-in carts: kept while one goes from field to field. */
export const standIns = ref<StandIn[]>([]);
