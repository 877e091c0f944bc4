import createClient from 'openapi-fetch';
import { say } from '../wording';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];

/** A problem as the API tells it (RFC 9457). */
export interface Problem {
  status: number;
  code: string;
  detail: string;
  /** The path of the setting that it is about, if any. */
  setting?: string;
  /** The token of the order that there is already, if any. */
  order_token?: string;
}

/** What was refused, or could not be asked at all. */
export class ApiError extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

const HEADER = 'X-Antiforgery';
let token: string | null = null;

export const api = createClient<paths>({ baseUrl: '' });

api.use({
  async onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set(HEADER, await currentToken());
  },
});

async function fetchToken(): Promise<string> {
  const response = await fetch('/api/antiforgery');
  return ((await response.json()) as Schemas['AntiforgeryToken']).token;
}

const currentToken = async (): Promise<string> => (token ??= await fetchToken());

/** The headers that a request carries which changes something and is not made by `api`. */
export const changingHeaders = async (): Promise<Record<string, string>> => ({ [HEADER]: await currentToken() });

/** Forgets the antiforgery token: it belongs to who is signed in. */
export function forgetToken(): void {
  token = null;
}

/** The data of a reply; what is not data is thrown as an ApiError with a sentence for people. */
export async function ask<T>(reply: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  let answer;
  try {
    answer = await reply;
  } catch {
    throw new ApiError({ status: 0, code: 'offline', detail: say('shop.offline') });
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as Partial<Problem> | undefined;
  throw new ApiError({
    ...problem,
    status: answer.response.status,
    code: problem?.code ?? 'unknown',
    detail: problem?.detail ?? say('shop.unexpected'),
  });
}

/** The sentence of anything that was thrown. */
export function sentenceOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
