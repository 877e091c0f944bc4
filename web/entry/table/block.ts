import Papa from 'papaparse';

/**
 * The cells of a block that was copied: tab-separated as spreadsheets put it on the clipboard, or values separated by commas or semicolons as RFC 4180 has
 * them, where several rows have equally many and at least three. Names are written "Ash, Una", so that two are no block.
 */
export function cellsOf(text: string): string[][] {
  if (text.includes('\t')) return parsed(text, '\t') ?? plain(text, '\t');
  for (const delimiter of [',', ';']) {
    const rows = parsed(text, delimiter);
    const width = rows?.[0]?.length ?? 0;
    if (rows && rows.length > 1 && width > 2 && rows.every((row) => row.length === width)) return rows;
  }
  return parsed(text, '\t') ?? plain(text, '\t');
}

// None where a quotation mark is only that: some programs quote a cell just for a line end in it.
function parsed(text: string, delimiter: string): string[][] | undefined {
  const { data, errors } = Papa.parse<string[]>(text, { delimiter });
  return errors.some((e) => e.type === 'Quotes') ? undefined : withoutLast(data);
}

const plain = (text: string, delimiter: string): string[][] => withoutLast(text.split(/\r\n|\r|\n/).map((row) => row.split(delimiter)));

// A block ends with a line end, which begins no row.
const withoutLast = (rows: string[][]): string[][] => (rows.length > 1 && rows.at(-1)!.join('') === '' ? rows.slice(0, -1) : rows);
