import 'cally';
import { h, type VNode } from 'vue';
import { say } from '../../shared/wording';

const turn = (slot: string, sign: string, words: string) =>
  h('span', { slot }, [h('span', { 'aria-hidden': 'true' }, sign), h('span', { class: 'visually-hidden' }, words)]);

/** What turns the months of a calendar, for its slots. */
export const monthTurns = (): VNode[] => [turn('previous', '‹', say('form.month_before')), turn('next', '›', say('form.month_after'))];
