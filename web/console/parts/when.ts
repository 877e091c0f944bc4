const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
const time = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit', second: '2-digit' });
const full = new Intl.DateTimeFormat(undefined, { dateStyle: 'full', timeStyle: 'long' });

const dayAlone = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });

/** "24 Nov 2026" in the viewer's locale, of a day without a time. */
export const dayOf = (isoDay: string): string => dayAlone.format(new Date(isoDay));

/** "24 Nov, 09:42" in the viewer's locale. */
export const dayAndTime = (iso: string): string => day.format(new Date(iso));

/** "09:42:07" in the viewer's locale. */
export const timeOfDay = (iso: string): string => time.format(new Date(iso));

/** The whole of it, with its zone: for the tooltip. */
export const inFull = (iso: string): string => full.format(new Date(iso));

/** A length of time, as one says it: "4 s", "11 min", "2 h", "3 days". */
export function seconds(length: number): string {
  if (length < 1) return '1 s';
  if (length < 90) return `${Math.round(length)} s`;
  if (length < 90 * 60) return `${Math.round(length / 60)} min`;
  return length < 48 * 3600 ? `${Math.round(length / 3600)} h` : `${Math.round(length / 86_400)} days`;
}

/** How long ago something was, seen from a moment. */
export const since = (iso: string, now: string): string => seconds((Date.parse(now) - Date.parse(iso)) / 1000);
