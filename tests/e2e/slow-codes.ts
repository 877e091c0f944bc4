// Item codes and weights, worked out a second time from the words of docs/decisions/0015.
import type { Answer, Answers, AskedField } from './slow-asking';

export interface CodeRule {
  separator: string;
  case: 'as_is' | 'upper' | 'lower';
  when_empty: string;
}
export interface CodedField extends AskedField {
  code: { part: string } | null;
}

/** How often a choice was taken. */
export function timesTaken(answer: Answer, choice: string): number {
  if (typeof answer === 'object') return Array.isArray(answer) ? (answer.includes(choice) ? 1 : 0) : Number(answer[choice] ?? 0);
  return answer === choice ? 1 : 0;
}

/** The code of a line: that of the goods, and behind separators what each answer contributes, as the fields are shown. */
export function codeOf(goods: string, fields: CodedField[], answers: Answers, rule: CodeRule): string {
  const partOf = (field: CodedField): string => {
    const answer = answers[field.key];
    if (answer === undefined || answer === false) return rule.when_empty;
    if (field.code!.part) return field.code!.part;
    const choices = field.settings.choices;
    if (!choices) return String(answer);
    return choices
      .map((c) => ({ code: c.code ?? '', times: timesTaken(answer, c.key) }))
      .filter((c) => c.code && c.times > 0)
      .map((c) => (c.times > 1 ? c.times : '') + c.code)
      .join('');
  };
  const code = [goods, ...fields.filter((f) => f.level === 'line' && f.code).map(partOf)].filter((p) => p !== '').join(rule.separator);
  return rule.case === 'upper' ? code.toUpperCase() : rule.case === 'lower' ? code.toLowerCase() : code;
}

/** What the choices of an answer weigh, in grams. */
export function weightOf(field: AskedField, answer: Answer | undefined): number {
  return answer === undefined
    ? 0
    : (field.settings.choices ?? []).reduce((sum, c) => sum + (c.weight_grams ?? 0) * timesTaken(answer, c.key), 0);
}
