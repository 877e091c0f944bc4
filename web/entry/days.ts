import type { Schemas } from '../shared/api/client';
import { locale } from '../shared/wording';

/** Which days can be chosen. */
export type OpenDays = NonNullable<Schemas['FormField']['days']>;

/** Whether a text is a day as full-date of RFC 3339 writes it. */
export const isIsoDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

/** A day in the words of the language of the page; any other text as it is. */
export const dayInWords = (text: string): string =>
  isIsoDay(text) ? new Intl.DateTimeFormat(locale(), { dateStyle: 'long', timeZone: 'UTC' }).format(new Date(text)) : text;

/** Whether a day cannot be chosen, apart from being too early or too late. */
export const isLeftOut = (day: Date, open: OpenDays | null | undefined): boolean =>
  !!open && (open.weekdays_out.includes(day.getUTCDay()) || open.days_out.includes(day.toISOString().slice(0, 10)));
