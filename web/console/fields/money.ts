import type { Draft } from './draft';

type Money = Draft['money'];

/** An amount as it is typed, without its sign of the currency: "1.20". */
export const amountText = (minor: number, { digits }: Money): string => (minor / 10 ** digits).toFixed(digits);

/** An amount typed with a point or a comma, in minor units; undefined when it is none, or has more digits than the currency. */
export function minorOf(typed: string, { digits }: Money): number | undefined {
  const [, minus, whole, rest = ''] = /^\s*([-−])?\s*(\d{1,9})(?:[.,](\d+))?\s*$/.exec(typed) ?? [];
  if (whole === undefined || rest.length > digits) return undefined;
  const minor = Number(whole + rest.padEnd(digits, '0'));
  return minus && minor ? -minor : minor;
}

/** A share as it is typed, without its per cent: "7.5". */
export const shareText = (ppm: number): string => String(ppm / 10_000);

/** A share typed in per cent, in parts per million; undefined when it is none, or finer than that. */
export function ppmOf(typed: string): number | undefined {
  const [, minus, whole, rest = ''] = /^\s*([-−])?\s*(\d{1,4})(?:[.,](\d{1,4}))?\s*%?\s*$/.exec(typed) ?? [];
  if (whole === undefined) return undefined;
  const ppm = Number(whole + rest.padEnd(4, '0'));
  return minus && ppm ? -ppm : ppm;
}
