import { shallowRef } from 'vue';
// Its type alone: which keys there are is known while building, the sentences come with the page.
import type sentences from '../../src/Sexton.Core/Sentences/sentences.json';

/** The key of a sentence that the shop says. */
export type SentenceKey = keyof typeof sentences;

/** What a sentence is filled in with. */
type Part = string | number | undefined;

/** What a page was given to say. */
export interface Wording {
  /** The name of the shop. */
  shop: string;
  /** The language of the page (BCP 47). */
  language: string;
  /** The languages that the shop speaks, with what each calls itself. */
  languages: { tag: string; name: string }[];
  /** The sentences of its pages and forms, by key. */
  sentences: Record<string, string>;
}

function onPage(): Wording {
  const given = document.getElementById('wording')?.textContent;
  return given
    ? (JSON.parse(given) as Wording)
    : { shop: '', language: document.documentElement.lang || 'en', languages: [], sentences: {} };
}

const wording = shallowRef(onPage());

/** Says other sentences from now on, in a language. */
export function speak(language: string, sentences: Record<string, string>): void {
  wording.value = { ...wording.value, language, sentences };
}

/** What the page says, and in which language. */
export const spoken = (): Wording => wording.value;

/** How the language of the page writes days and numbers; English without a country is British. */
export const locale = (): string => (wording.value.language === 'en' ? 'en-GB' : wording.value.language);

/** A sentence, filled in, in one pass: what is filled in is never looked at again. */
export const say = (key: SentenceKey, ...parts: Part[]): string =>
  (wording.value.sentences[key] ?? '').replace(/\{([0-3])\}/g, (_, place) => String(parts[Number(place)] ?? ''));

/** The keys of sentences that differ for one and for many. */
type Counted = Extract<SentenceKey, `${string}_one`> extends infer K ? (K extends `${infer Stem}_one` ? Stem : never) : never;

/** A sentence about a number of things. */
export const sayCount = (key: Counted, count: number): string => say(`${key}_${count === 1 ? 'one' : 'many'}` as SentenceKey, count);
