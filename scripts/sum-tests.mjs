// Sums the runners' own reports into one line. A report that is missing is a failure: its runner died.
import { readFileSync } from 'node:fs';

const folder = process.argv[2];
const sum = { passed: 0, failed: 0, skipped: 0 };

for (const suite of ['Core', 'Server']) {
  const trx = read(`${suite}.trx`);
  const counters = /<Counters ([^>]*)>/.exec(trx ?? '')?.[1];
  if (!counters) {
    missing(suite);
    continue;
  }
  const count = (name) => Number(new RegExp(`\\b${name}="(\\d+)"`).exec(counters)?.[1] ?? 0);
  sum.passed += count('passed');
  sum.failed += count('failed') + count('error') + count('timeout') + count('aborted');
  sum.skipped += count('notExecuted');
}

const stats = JSON.parse(read('browser.json') ?? 'null')?.stats;
if (stats) {
  sum.passed += stats.expected;
  sum.failed += stats.unexpected + stats.flaky;
  sum.skipped += stats.skipped;
} else {
  missing('browser');
}

console.log(`${sum.passed} passed, ${sum.failed} failed, ${sum.skipped} skipped`);
process.exitCode = sum.failed > 0 || sum.passed === 0 ? 1 : 0;

function read(name) {
  try {
    return readFileSync(`${folder}/${name}`, 'utf8');
  } catch {
    return null;
  }
}

function missing(suite) {
  console.error(`The ${suite} tests left no report.`);
  sum.failed += 1;
}
