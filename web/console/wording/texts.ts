import type { Schemas } from '../../shared/api/client';

export type Text = Schemas['TextView'];
export type Language = Schemas['TextLanguageView'];

/** Which texts are looked at. */
export type Shown = 'all' | 'missing' | 'written' | 'own';

/** What is read in a language; "" for nothing in that very language. */
export const textIn = (text: Text, language: string): string => text.said[language] ?? text.usual[language] ?? '';

/** Whether the shop says it in words of its own although something is shipped. */
export const isOwn = (text: Text, language: string): boolean => text.usual[language] !== undefined && text.said[language] !== undefined;

/** Whether a language that the shop speaks has no text. */
export const lacks = (text: Text, language: Language): boolean => language.spoken && !textIn(text, language.tag);

/** The texts to look at: of a sort, and with some words in them, their key or their place. */
export function chosen(texts: Text[], languages: Language[], shown: Shown, words: string): Text[] {
  const sought = words.trim().toLowerCase();
  const isShown: Record<Shown, (text: Text) => boolean> = {
    all: () => true,
    missing: (text) => languages.some((l) => lacks(text, l)),
    written: (text) => Object.keys(text.usual).length === 0,
    own: (text) => languages.some((l) => isOwn(text, l.tag)),
  };
  return texts
    .filter(isShown[shown])
    .filter(
      (text) =>
        !sought || [text.key, text.where, ...languages.map((l) => textIn(text, l.tag))].some((part) => part.toLowerCase().includes(sought)),
    );
}
