/** Rows as RFC 4180 has them. */
export const stringify = (rows: (string | undefined)[][]): string =>
  rows.map((row) => row.map((cell) => `"${(cell ?? '').replaceAll('"', '""')}"`).join(',') + '\r\n').join('');
