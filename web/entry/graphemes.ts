const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** The number of user-perceived characters (UAX #29). A hint while typing; what counts is what the server says. */
export function graphemes(text: string): number {
  let count = 0;
  for (const _ of segmenter.segment(text)) count++;
  return count;
}

/** The beginning of a text, of at most so many user-perceived characters. */
export function headOf(text: string, most: number): string {
  if (text.length <= most) return text;
  let count = 0;
  for (const { index } of segmenter.segment(text)) if (count++ === most) return text.slice(0, index);
  return text;
}
