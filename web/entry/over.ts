import { graphemes, headOf } from './graphemes';

/** A piece of a text, and whether it is over what there is room for. */
export interface Piece {
  text: string;
  over: boolean;
}

/** Of how many lines a text may be, how long each may be, and how long all of it; what is left out has no limit. */
export interface Room {
  lines?: number;
  line?: number;
  whole?: number;
}

/** A text in pieces, those over its room marked: the ends of lines that are too long, lines after the last, and the end of what is too long as a whole. */
export function overIn(text: string, { lines = Infinity, line = Infinity, whole = Infinity }: Room): Piece[] {
  const pieces: Piece[] = [];
  let room = whole;
  for (const [i, own] of text.split('\n').entries()) {
    const end = i > 0 ? '\n' : '';
    const fits = i < lines ? headOf(own, Math.max(0, Math.min(line, room - end.length))) : '';
    pieces.push({ text: end + fits, over: false });
    if (fits !== own) pieces.push({ text: own.slice(fits.length), over: true });
    room -= end.length + (whole === Infinity ? 0 : graphemes(own));
  }
  return pieces;
}
