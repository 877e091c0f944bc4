const day = new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' });
const time = new Intl.DateTimeFormat(undefined, { hour: '2-digit', minute: '2-digit', second: '2-digit' });
const full = new Intl.DateTimeFormat(undefined, { dateStyle: 'full', timeStyle: 'long' });

/** "24 Nov, 09:42" in the viewer's locale. */
export const dayAndTime = (iso: string): string => day.format(new Date(iso));

/** "09:42:07" in the viewer's locale. */
export const timeOfDay = (iso: string): string => time.format(new Date(iso));

/** The whole of it, with its zone: for the tooltip. */
export const inFull = (iso: string): string => full.format(new Date(iso));
