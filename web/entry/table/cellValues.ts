import type { Answer, Asked } from '../answers';

const SIGNS: [yes: string[], no: string[]] = [
  ['x', '1', 'true', 'yes', 'ja', '✓'],
  ['0', 'false', 'no', 'nein', '-'],
];

/** The words for yes and no of a question. */
export const wordsFor = (asked: Asked): [yes: string, no: string] => [String(asked.settings.yes), String(asked.settings.no)];

const same = (a: string, b: string) => a.localeCompare(b, undefined, { sensitivity: 'accent' }) === 0;

function truthOf(text: string, asked: Asked): boolean | undefined {
  const [yes, no] = wordsFor(asked);
  if (same(text, yes) || SIGNS[0].some((sign) => same(text, sign))) return true;
  return same(text, no) || SIGNS[1].some((sign) => same(text, sign)) ? false : undefined;
}

const choiceOf = (text: string, asked: Asked): string | undefined =>
  (asked.choices.find((c) => same(c.label, text)) ?? asked.choices.find((c) => same(c.key, text)))?.key;

/**
 * The answer that a cell of a pasted block gives: a choice by its label, yes or no by its word. What is none of them stays as it was typed, and is told
 * in its place; undefined where nothing can be pasted.
 */
export function answerFrom(text: string, asked: Asked): Answer | undefined {
  const plain = text.trim();
  switch (asked.type) {
    case 'file':
    case 'picture':
    case 'postal_address':
    case 'how_many_of_each':
    case 'time_slot':
    case 'worked_out':
      return undefined;
    case 'yes_no':
      return truthOf(plain, asked) ?? plain;
    case 'agreed_to': {
      const truth = truthOf(plain, asked);
      return truth ? { text: String(asked.settings.terms ?? '') } : truth === undefined ? plain : '';
    }
    case 'one_of':
    case 'country':
      return choiceOf(plain, asked) ?? plain;
    case 'several_of': {
      const picks = plain.split(/\s*[,;\n]\s*/).map((part) => choiceOf(part, asked));
      return picks.every((key) => key !== undefined) ? (picks as string[]) : plain;
    }
    case 'long_text':
      return text.replace(/\r\n?/g, '\n');
    default:
      return plain;
  }
}
