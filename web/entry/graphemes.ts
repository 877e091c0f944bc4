const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** The number of user-perceived characters (UAX #29). A hint while typing; what counts is what the server says. */
export function graphemes(text: string): number {
  let count = 0;
  for (const _ of segmenter.segment(text)) count++;
  return count;
}
