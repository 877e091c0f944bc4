import type { Schemas } from '../shared/api/client';

export type Asked = Schemas['AskedView'];
export type AnswerProblem = Schemas['AnswerProblem'];

/** An answer as it is entered: a text, or named parts of text. */
export type Answer = string | Record<string, string>;

/** Answers by field key. */
export type Answers = Record<string, Answer>;
