import type { Schemas } from '../shared/api/client';

export type Asked = Schemas['AskedView'];
export type AnswerProblem = Schemas['ProblemView'];
export type Evaluated = Schemas['EvaluationView'];

/** An answer as it is entered: a text, a number, yes or no, several picks, or named parts of text. */
export type Answer = Schemas['AnswerValue'];

/** Answers by field key. */
export type Answers = Record<string, Answer>;

/** One of a line, with its answers. */
export interface Unit {
  id: string;
  answers: Answers;
}

/** Whether nothing was entered. */
export function isBlank(answer: Answer | undefined): boolean {
  if (answer === undefined) return true;
  if (typeof answer === 'string') return answer.trim() === '';
  if (Array.isArray(answer)) return answer.length === 0;
  return typeof answer === 'object' && Object.values(answer).every((part) => part.trim() === '');
}
