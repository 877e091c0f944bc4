/**
 * Calls a function once a while has passed without another call, or now, and drops every reply but that to the last call. Where it has to be ready first, it
 * is only called if no other call or end came meanwhile.
 */
export function latest<A, R>(
  work: (argument: A) => Promise<R>,
  take: (result: R) => void,
  fail: (error: unknown) => void,
  pause = 200,
  ready?: () => Promise<void>,
) {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let turn = 0;

  async function now(argument: A): Promise<void> {
    clearTimeout(timer);
    const mine = ++turn;
    try {
      await ready?.();
      if (mine !== turn) return;
      const result = await work(argument);
      if (mine === turn) take(result);
    } catch (error) {
      if (mine === turn) fail(error);
    }
  }

  function soon(argument: A): void {
    clearTimeout(timer);
    timer = setTimeout(() => void now(argument), pause);
  }

  /** Calls no more, and drops the reply to the last call. */
  function stop(): void {
    clearTimeout(timer);
    turn++;
  }

  return { soon, now, stop };
}
