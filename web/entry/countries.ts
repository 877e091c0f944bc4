import type { InjectionKey } from 'vue';

/** The countries delivered to, by ISO 3166-1 code; provided by the page around the form. */
export const countriesKey: InjectionKey<Record<string, string>> = Symbol('countries');
