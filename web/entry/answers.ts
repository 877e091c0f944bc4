import type { Schemas } from '../shared/api/client';

export type AnswerProblem = Schemas['ProblemView'];

/** A field where it is asked: its form, the choices offered here, and the canonical text of its answer. */
export interface Asked extends Omit<Schemas['FormField'], 'key' | 'choices'> {
  choices: Choice[];
  slot: string;
  field: string;
  line_id: string | null;
  unit_id: string | null;
  required: boolean;
  text: string;
  /** What it costs, beside the choices; "" for nothing. */
  cost: string;
  /** Whether there is enough of it: "3 left", "sold out"; "" where there is. */
  left: string;
  /** What the answer at hand adds or takes off; "" for nothing. */
  adds: string;
}

/** A choice with what it costs, and whether there is enough of it; "" for nothing to say. */
export type Choice = Schemas['ChoiceView'] & { cost: string; left: string };

/** An evaluation with the form of every field where it is asked. */
export type Evaluated = Omit<Schemas['EvaluationView'], 'fields' | 'asked'> & { asked: Asked[] };

/** The forms of the fields that were asked. */
export type Forms = Schemas['FormField'][];

/** The reply names the form of each field once, and then where it is asked; what it leaves out is what the page said that it has. */
export function unfold({ fields, asked, ...rest }: Schemas['EvaluationView'], known: Forms = []): Evaluated {
  const forms = new Map((fields ?? known).map(({ key, ...form }) => [key, form]));
  return {
    ...rest,
    asked: asked.map(({ choices, costs, adds, ...place }) => {
      const form = forms.get(place.field)!;
      const costOf = (choice: string | null) => costs?.find((c) => c.choice === choice);
      return {
        ...form,
        ...place,
        required: place.required ?? false,
        text: place.text ?? '',
        line_id: place.line_id ?? null,
        unit_id: place.unit_id ?? null,
        slot: [place.line_id, place.unit_id, place.field].join('/'),
        choices: form.choices
          .filter((c) => !choices || choices.includes(c.key))
          .map((c) => ({ ...c, cost: costOf(c.key)?.text ?? '', left: costOf(c.key)?.left ?? '' })),
        cost: costOf(null)?.text ?? '',
        left: costOf(null)?.left ?? '',
        adds: adds ?? '',
      };
    }),
  };
}

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

/** So many of a line are asked one under the other; more of them in a table. */
export const HANDFUL = 5;

/**
 * Whether a problem is told where the shopper has been or tries to go on. Somebody who goes past an empty field is not told off before trying to go on; and
 * "fill this in" about a text that is there is the reply to an earlier state, which must not push the button away from under the pointer.
 */
export function isTimely(problem: AnswerProblem, answer: Answer | undefined, wasThere: boolean, goesOn: boolean): boolean {
  return problem.code === 'required' ? goesOn && isBlank(answer) : goesOn || wasThere;
}

/** What is of one unit, or of the line as a whole for null. */
export const ofUnit = <T extends { unit_id: string | null }>(all: T[], unit: string | null): T[] => all.filter((x) => x.unit_id === unit);

/** One of a line as it is told to people: its name, and what was filled in for it. */
export interface ToldUnit {
  id: string;
  name: string;
  told: string;
}

/** Each one of a line as the form shows it, in its order. What was just typed stands for what has not come back yet. */
export function toldUnits(evaluation: Evaluated | undefined, line: string, units: Unit[]): ToldUnit[] {
  const named = evaluation?.units.filter((u) => u.line_id === line) ?? [];
  return named.map(({ id, name }) => {
    const asked = evaluation!.asked.filter((a) => a.line_id === line && a.unit_id === id && !a.asks_nothing);
    const typed = units.find((u) => u.id === id)?.answers ?? {};
    const told = asked
      .map((a) => a.text || (typeof typed[a.field] === 'string' && !a.choices.length ? String(typed[a.field]) : ''))
      .filter((text) => text.trim());
    return { id, name, told: told.slice(0, 3).join(', ') };
  });
}

/** Every one of a line that the form shows, in its order, with what was filled in. */
export const allUnits = (evaluation: Evaluated | undefined, line: string, units: Unit[]): Unit[] =>
  (evaluation?.units.filter((u) => u.line_id === line) ?? []).map(({ id }) => units.find((u) => u.id === id) ?? { id, answers: {} });
