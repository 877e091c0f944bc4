import { spawnSync } from 'node:child_process';
import { mkdtempSync, symlinkSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { root } from './database';

const server = process.env.SEXTON_TEST_SERVER!;

/** Runs a command, and gives its exit code and what it said. */
function run(
  command: string,
  words: string[],
  environment: NodeJS.ProcessEnv = {},
  timeout = 60_000,
): { code: number | null; said: string } {
  const { status, stdout, stderr } = spawnSync(command, words, { env: { ...process.env, ...environment }, encoding: 'utf8', timeout });
  return { code: status, said: stdout + stderr };
}

test('a port in use is one sentence that says what to do', async () => {
  const listening = await new Promise<Server>((resolve) => {
    const made = createServer().listen(0, '127.0.0.1', () => resolve(made));
  });
  const { port } = listening.address() as { port: number };
  const { code, said } = await new Promise<{ code: number | null; said: string }>((resolve) =>
    resolve(run(join(root, 'sexton'), ['demo'], { SEXTON_PORT: String(port) })),
  );
  listening.close();
  expect(code).toBe(1);
  expect(said.trim()).toBe(`Port ${port} is in use. Stop what uses it, or choose another: SEXTON_PORT=${port + 10} ./sexton demo`);
});

/** A folder of programs that has what the script itself needs, and no tools. */
function bareFolder(): string {
  const folder = mkdtempSync(join(tmpdir(), 'sexton-bare-'));
  for (const program of ['bash', 'dirname', 'mkdir', 'cat']) symlinkSync(`/bin/${program}`, join(folder, program));
  return folder;
}

for (const { what, words, environment, sentence } of [
  { what: 'a command that there is not', words: [join(root, 'sexton'), 'fly'], environment: {}, sentence: 'There is no command “fly”.' },
  { what: 'an option that there is not', words: [join(root, 'sexton'), 'demo', '--quick'], environment: {}, sentence: 'knows no --quick' },
  {
    what: 'a missing tool',
    words: ['/bin/bash', join(root, 'sexton'), 'start'],
    environment: { PATH: bareFolder() },
    sentence: 'The .NET 10 SDK is missing.',
  },
  {
    what: 'a missing connection string',
    words: ['dotnet', server],
    environment: { SEXTON__DATABASE: '', SEXTON__KEY: '' },
    sentence: 'SEXTON__DATABASE',
  },
  {
    what: 'a database that is away',
    words: ['dotnet', server, 'migrate'],
    environment: { SEXTON__DATABASE: 'Host=127.0.0.1;Port=1', SEXTON__KEY: Buffer.alloc(32).toString('base64') },
    sentence: 'Failed to connect',
  },
  {
    what: 'a file that cannot be imported',
    words: ['dotnet', server, 'import', 'no-such-file.json'],
    environment: { SEXTON__DATABASE: 'Host=127.0.0.1;Port=1', SEXTON__KEY: Buffer.alloc(32).toString('base64') },
    sentence: 'no-such-file.json cannot be imported',
  },
]) {
  test(`${what} is told in a sentence`, () => {
    const [command, ...rest] = words;
    const { code, said } = run(command!, rest, environment);
    expect(code).not.toBe(0);
    expect(said).toContain(sentence);
    expect(said).not.toContain('   at ');
  });
}

test('each benchmark runs to its end', () => {
  const { code, said } = run(
    'dotnet',
    [process.env.SEXTON_TEST_BENCH!, 'short'],
    { SEXTON_BENCH_DATABASE: process.env.SEXTON_TEST_DATABASE! },
    300_000,
  );
  expect(code, said).toBe(0);
  // The core against code by hand, against Node, priced, from few fields to many; over HTTP; placing; uploading.
  expect(said.match(/goal:/g)!.length).toBeGreaterThanOrEqual(6);
});
