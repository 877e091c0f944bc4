import type { Schemas } from '../../shared/api/client';
import { dayAndTime } from './when';

/** A piece of a drawing. */
interface Shape {
  tag: 'path' | 'circle';
  attributes: Record<string, string | number>;
}

const path = (d: string, fill = 'none', more: Record<string, string | number> = {}): Shape => ({
  tag: 'path',
  attributes: { d, fill, stroke: 'currentColor', ...more },
});
const dot = (cx: number, cy: number, r: number, fill: string, stroke = 'currentColor', width = 1.5): Shape => ({
  tag: 'circle',
  attributes: { cx, cy, r, fill, stroke, 'stroke-width': width },
});

const SHEET = 'var(--sheet)';

/**
 * Our signs, on 16 × 16. The motif is the sheet of paper; each is told apart without colour at 12 px.
 * The first are what became of an answer, the rest the marks of the map: where something is asked stand gate-posts, joined by a bar where it must be
 * answered, behind a single post where it is asked under a condition.
 */
export const shapes = {
  open_sheet: [path('M4.5 2.5h7v11h-7z', SHEET)],
  folded_sheet: [path('M4.5 2.5h4.4l2.6 2.6v8.4h-7z', SHEET), path('M8.7 2.7v2.6h2.6')],
  sealed_sheet: [path('M4.5 2.5h7v11h-7z', 'currentColor'), dot(8, 9.4, 1.9, 'var(--brass)', 'none')],
  torn_sheet: [
    path('M4.5 2.5h7v3.8l-1.7 1.3-1.4-1.4-1.6 1.6-2.3-1.3z', SHEET),
    path('M4.5 13.5h7v-3.6l-1.9 1.1-1.5-1.4-1.4 1.5-2.2-1.1z', SHEET),
  ],
  dotted_outline: [path('M4.5 2.5h7v11h-7z', 'none', { 'stroke-dasharray': '1.6 1.6' })],
  raised_flag: [path('M5.5 5.5h6v8h-6z', SHEET), path('M3.5 14V1.5h5.2L7.4 3.2l1.3 1.7H3.5', 'currentColor')],
  struck_line: [path('M4.5 2.5h7v11h-7z', SHEET), path('M2.5 8h11', 'none', { 'stroke-width': 1.6 })],
  flagged_hole: [dot(6.5, 10, 3, 'none'), path('M6.5 7V1.5h5.2l-1.3 1.7 1.3 1.7H6.5', 'currentColor')],
  cut_folded_sheet: [
    path('M6.9 2.5h2l2.6 2.6v8.4h-7V4.9z', SHEET),
    path('M8.7 2.7v2.6h2.6'),
    path('M3.2 5.4 7.4 1.2', 'none', { 'stroke-width': 1.2 }),
  ],
  cut_sealed_sheet: [
    path('M6.9 2.5h4.6v11h-7V4.9z', 'currentColor'),
    dot(8, 9.4, 1.9, 'var(--brass)', 'none'),
    path('M3.2 5.4 7.4 1.2', 'none', { 'stroke-width': 1.2 }),
  ],
  nothing: [],
  goes: [path('M4.5 3.5h7v9h-7z', 'currentColor')],
  stays: [dot(8, 8, 1, 'var(--rule-strong)', 'none')],
  asked: [path('M5 3.5v9M11 3.5v9', 'none', { 'stroke-width': 2 })],
  must: [path('M5 3.5v9M11 3.5v9M5 7.5h6', 'none', { 'stroke-width': 2 })],
  goes_cut: [path('M4.5 3.5h7v5.6l-3.4 3.4H4.5z', 'currentColor')],
  goes_if: [path('M4.5 3.5h7v9h-7z', SHEET), path('M4.5 12.5v-9h7z', 'currentColor')],
  asked_if: [path('M1.8 5.5v7', 'none', { 'stroke-width': 1.4 }), path('M6.5 3.5v9M12.5 3.5v9', 'none', { 'stroke-width': 2 })],
  must_if: [path('M1.8 5.5v7', 'none', { 'stroke-width': 1.4 }), path('M6.5 3.5v9M12.5 3.5v9M6.5 7.5h6', 'none', { 'stroke-width': 2 })],
} satisfies Record<string, Shape[]>;

export type SignKey = keyof typeof shapes;

const words: Record<string, string> = {
  nothing: 'does not go there',
  open_sheet: 'on its way',
  sealed_sheet: 'confirmed by the other side',
  torn_sheet: 'altered',
  dotted_outline: 'missing',
  raised_flag: 'needs attention',
  struck_line: 'no longer asked',
  flagged_hole: 'left out here',
  cut_sealed_sheet: 'confirmed by the other side, fitted as agreed',
};

/** What a mark of the trail says. */
export function wordsFor(mark: Schemas['MarkView']): string {
  if (mark.expectation === 'left_empty') return 'left empty';
  if (mark.sign === 'open_sheet' && mark.delivery === null) return 'not opened yet';
  if (mark.nothing_yet) return 'waits until something happens that it is told';
  if (mark.sign === 'open_sheet' && mark.delivery === 'not_released')
    return mark.not_before ? `waits for its day, ${dayAndTime(mark.not_before)}` : 'waits until it is prepared';
  if (mark.sign === 'cut_folded_sheet') return `${mark.finding}, fitted as agreed`;
  return mark.sign === 'folded_sheet' ? mark.finding : (words[mark.sign] ?? '');
}
