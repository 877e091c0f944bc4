import type { InjectionKey } from 'vue';

/** An address that is suggested while a shopper types. */
export interface Suggested {
  street: string;
  town: string;
  postcode: string;
}

/** Finds addresses of a country for what was typed; a page that has a book of them provides it. */
export type Suggest = (country: string, typed: string) => Promise<Suggested[]>;

export const suggestKey: InjectionKey<Suggest> = Symbol('suggest');
