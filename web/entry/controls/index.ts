import type { Component } from 'vue';
import DateEntry from './DateEntry.vue';
import LineEntry from './LineEntry.vue';
import LongEntry from './LongEntry.vue';
import NumberEntry from './NumberEntry.vue';
import OneOfEntry from './OneOfEntry.vue';
import PostalAddressEntry from './PostalAddressEntry.vue';
import SeveralOfEntry from './SeveralOfEntry.vue';
import YesOrNoEntry from './YesOrNoEntry.vue';
import type { Asked } from '../answers';

/** The control for each kind of answer. A kind that is not listed is entered as one line. */
const controls: Record<string, Component> = {
  long_text: LongEntry,
  number: NumberEntry,
  date: DateEntry,
  yes_no: YesOrNoEntry,
  one_of: OneOfEntry,
  several_of: SeveralOfEntry,
  postal_address: PostalAddressEntry,
};

export const controlFor = (type: string): Component => controls[type] ?? LineEntry;

/** Whether a control is several inputs under one label. */
export const isGroup = (asked: Asked): boolean =>
  ['yes_no', 'several_of', 'postal_address'].includes(asked.type) || (asked.type === 'one_of' && asked.settings.laid_out !== 'list');
