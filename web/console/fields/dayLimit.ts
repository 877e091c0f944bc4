/** A day as a limit: fixed, or counted from today. */
export interface DayLimit {
  day?: string | null;
  from_today?: number | null;
  years_from_today?: number | null;
}

/** It as it stands in a sentence, and is typed. */
export function dayText({ day, from_today, years_from_today }: DayLimit): string {
  if (day) return day;
  const [count, unit] = years_from_today == null ? [from_today ?? 0, 'day'] : [years_from_today, 'year'];
  if (count === 0) return 'today';
  const many = Math.abs(count);
  return `${many} ${unit}${many === 1 ? '' : 's'} ${count < 0 ? 'before' : 'after'} today`;
}

/** What was typed; a text that is no such day as it is, so that the server says what it wants. */
export function dayTyped(plain: string): DayLimit | string {
  if (plain === 'today') return { from_today: 0 };
  if (/^\d{4}-\d{2}-\d{2}$/.test(plain)) return { day: plain };
  const found = /^(-?\d+)\s*(days?|years?)?(\s+(before|after|from) today)?$/.exec(plain);
  if (!found) return plain;
  const count = found[4] === 'before' ? -Math.abs(Number(found[1])) : Number(found[1]);
  return found[2]?.startsWith('year') ? { years_from_today: count } : { from_today: count };
}
