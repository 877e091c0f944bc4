// Sums the runners' own reports into one line. A report that is missing is a failure: its runner died.
//   node sum-tests.mjs FOLDER PART...   parts: core, server, browser
import { readFileSync } from 'node:fs';

const [folder, ...parts] = process.argv.slice(2);
const sum = { passed: 0, failed: 0, skipped: 0 };
const readers = { core: () => fromTrx('Core.trx'), server: () => fromTrx('Server.trx'), browser: fromPlaywright };

for (const part of parts) {
  const counts = readers[part]();
  if (!counts) console.error(`The ${part} tests left no report.`);
  for (const [name, count] of Object.entries(counts ?? { failed: 1 })) sum[name] += count;
}

console.log(`${sum.passed} passed, ${sum.failed} failed, ${sum.skipped} skipped`);
process.exitCode = sum.failed > 0 || sum.passed === 0 ? 1 : 0;

function fromTrx(name) {
  const counters = /<Counters ([^>]*)>/.exec(read(name) ?? '')?.[1];
  const count = (word) => Number(new RegExp(`\\b${word}="(\\d+)"`).exec(counters)?.[1] ?? 0);
  return (
    counters && {
      passed: count('passed'),
      failed: count('failed') + count('error') + count('timeout') + count('aborted'),
      skipped: count('notExecuted'),
    }
  );
}

function fromPlaywright() {
  const stats = JSON.parse(read('browser.json') ?? 'null')?.stats;
  return stats && { passed: stats.expected, failed: stats.unexpected + stats.flaky, skipped: stats.skipped };
}

function read(name) {
  try {
    return readFileSync(`${folder}/${name}`, 'utf8');
  } catch {
    return null;
  }
}
