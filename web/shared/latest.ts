/**
 * Calls a function once a while has passed without another call, or now, and drops every reply but that to the last call; one that takes the signal is told
 * when nobody waits for it any more. Where it has to be ready first, it is only called if no other call or end came meanwhile.
 */
export function latest<A, R>(
  work: (argument: A, signal: AbortSignal) => Promise<R>,
  take: (result: R) => void,
  fail: (error: unknown) => void,
  pause = 200,
  ready?: () => Promise<void>,
) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let turn = 0;
  let waiting = new AbortController();
  let last = Promise.resolve();

  async function call(argument: A, mine: number, signal: AbortSignal): Promise<void> {
    try {
      await ready?.();
      if (mine !== turn) return;
      const result = await work(argument, signal);
      if (mine === turn) take(result);
    } catch (error) {
      if (mine === turn) fail(error);
    }
  }

  /** Calls now, and waits until the reply to the last call is there: another may have been made meanwhile, and this one says nothing any more. */
  async function now(argument: A): Promise<void> {
    clearTimeout(timer);
    waiting.abort();
    waiting = new AbortController();
    last = call(argument, ++turn, waiting.signal);
    for (let seen: Promise<void> | undefined; seen !== last; await seen) seen = last;
  }

  function soon(argument: A): void {
    clearTimeout(timer);
    timer = setTimeout(() => void now(argument), pause);
  }

  /** Calls no more, and drops the reply to the last call. */
  function stop(): void {
    clearTimeout(timer);
    turn++;
    waiting.abort();
  }

  return { soon, now, stop };
}
