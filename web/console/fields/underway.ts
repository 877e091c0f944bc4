import type { Draft } from './draft';

/** A change that is on its way to the server. */
export interface Underway {
  key: string;
  setting: string;
  value: unknown;
}

// Settings that are changed part by part but saved as one: the next part is changed on top of the last, whether or not that was saved yet.
const wholes =
  /^(when|required_when|refused_when|asked_of|settings\.choices|settings\.working|prices|uses|code|goes_to_when\..+|shop|products\..+|leaves\..+|gets|without_prices_when|order)$/;

/** The draft as it will be once everything under way has arrived. */
export function withUnderway(draft: Draft, changes: Underway[]): Draft {
  return changes.filter((c) => wholes.test(c.setting)).reduce(lay, draft);
}

function lay(draft: Draft, { key, setting, value }: Underway): Draft {
  const path = setting.split('.');
  if (key === 'item-codes') {
    // The code of a product may itself have a point in it.
    const [name, ...rest] = path;
    return { ...draft, codes: { ...draft.codes, rules: put(draft.codes.rules, rest.length ? [name!, rest.join('.')] : [name!], value) } };
  }
  return {
    ...draft,
    fields: draft.fields.map((f) => (f.field.key === key ? { ...f, field: put(f.field, path, value) } : f)),
    destinations: draft.destinations.map((d) => (d.key === key ? { ...d, destination: put(d.destination, path, value) } : d)),
    sections: draft.sections.map((s) => (s.section.key === key ? { ...s, section: put(s.section, path, value) } : s)),
  };
}

function put<T extends object>(whole: T, [name, ...rest]: string[], value: unknown): T {
  const part = (whole as Record<string, unknown>)[name!];
  return { ...whole, [name!]: rest.length ? put((part ?? {}) as object, rest, value) : value };
}
