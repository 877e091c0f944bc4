import { defineAsyncComponent, type Component } from 'vue';
import AgreedEntry from './AgreedEntry.vue';
import CountryEntry from './CountryEntry.vue';
import CountsEntry from './CountsEntry.vue';
import DateEntry from './DateEntry.vue';
import ReadOnlyEntry from './ReadOnlyEntry.vue';
import LineEntry from './LineEntry.vue';
import LongEntry from './LongEntry.vue';
import NameEntry from './NameEntry.vue';
import NumberEntry from './NumberEntry.vue';
import OneOfEntry from './OneOfEntry.vue';
import PostalAddressEntry from './PostalAddressEntry.vue';
import SeveralOfEntry from './SeveralOfEntry.vue';
import SlotEntry from './SlotEntry.vue';
import WordsEntry from './WordsEntry.vue';
import YesOrNoEntry from './YesOrNoEntry.vue';
import type { Asked } from '../answers';
import { isNameInParts } from './parts';
import { isBox } from '../boxes';

// Loaded where a file is asked, which is seldom.
const FileEntry = defineAsyncComponent(() => import('./FileEntry.vue'));

/** The control for each kind of answer. A kind that is not listed is entered as one line. */
const controls: Record<string, Component> = {
  long_text: LongEntry,
  number: NumberEntry,
  amount_of_money: NumberEntry,
  date: DateEntry,
  time_slot: SlotEntry,
  yes_no: YesOrNoEntry,
  agreed_to: AgreedEntry,
  one_of: OneOfEntry,
  several_of: SeveralOfEntry,
  how_many_of_each: CountsEntry,
  file: FileEntry,
  picture: FileEntry,
  country: CountryEntry,
  postal_address: PostalAddressEntry,
  words_only: WordsEntry,
  worked_out: ReadOnlyEntry,
};

export const controlFor = (asked: Asked): Component =>
  asked.given_by_page ? ReadOnlyEntry : isNameInParts(asked) ? NameEntry : (controls[asked.type] ?? LineEntry);

/** Whether a control is several inputs under one label. */
export const isGroup = (asked: Asked): boolean =>
  asked.given_by_page ||
  (asked.type === 'yes_no' && !isBox(asked)) ||
  isNameInParts(asked) ||
  ['agreed_to', 'several_of', 'how_many_of_each', 'time_slot', 'postal_address', 'words_only', 'worked_out', 'file', 'picture'].includes(
    asked.type,
  ) ||
  (asked.type === 'one_of' && asked.settings.laid_out !== 'list');
