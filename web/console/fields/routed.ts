import type { Schemas } from '../../shared/api/client';
import type { Draft, DraftDestination, Level } from './draft';
import { nameOf } from './groups';

/** Something whose answers go to a destination, or can: a field, or the opening question of a section. */
export interface Routed {
  key: string;
  name: string;
  level: Level;
  goesTo: string[];
  named_values: Schemas['NamedKey'][];
  holds_day: boolean;
  too_long: Schemas['TooLongView'][];
  left_out: Schemas['LeftOutView'][];
}

const yesNo = [
  { key: 'yes', name: 'Yes' },
  { key: 'no', name: 'No' },
];

/** What could go to a destination: the opening questions of sections stand before the fields. */
export function routable(draft: Draft, item: DraftDestination): Routed[] {
  const sections = draft.sections
    .filter((s) => !s.section.retired && s.section.opening?.en)
    .map(({ section }) => ({
      key: section.key,
      name: section.opening!.en!,
      level: (section.level ?? 'order') as Level,
      goesTo: section.goes_to ?? [],
      named_values: yesNo,
      holds_day: false,
      too_long: [],
      left_out: [],
    }));
  const fields = draft.fields
    .filter((f) => !f.field.retired && !draft.types.find((t) => t.key === f.field.type)?.asks_nothing)
    .map((f) => ({
      key: f.field.key,
      name: nameOf(f),
      level: f.field.level as Level,
      goesTo: f.field.goes_to ?? [],
      named_values: f.named_values,
      holds_day: f.holds_day,
      too_long: f.too_long,
      left_out: f.left_out,
    }));
  return [...sections, ...fields].filter((r) => item.levels.includes(r.level));
}
