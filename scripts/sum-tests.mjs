// Sums the runners' own reports into one line, after the names of what failed.
// A report that is missing is a failure: its runner died.
//   node sum-tests.mjs FOLDER PART...   parts: core, server, browser
import { readFileSync } from 'node:fs';

const [folder, ...parts] = process.argv.slice(2);
const sum = { passed: 0, failed: 0, skipped: 0 };
const failures = [];
const readers = { core: () => fromTrx('Core.trx'), server: () => fromTrx('Server.trx'), browser: fromPlaywright };

for (const part of parts) {
  const counts = readers[part]();
  if (!counts) console.error(`The ${part} tests left no report.`);
  for (const [name, count] of Object.entries(counts ?? { failed: 1 })) sum[name] += count;
}

for (const failure of failures) console.log(`failed: ${failure}`);
console.log(`${sum.passed} passed, ${sum.failed} failed, ${sum.skipped} skipped`);
process.exitCode = sum.failed > 0 || sum.passed === 0 ? 1 : 0;

function fromTrx(name) {
  const report = read(name) ?? '';
  for (const [, attributes, message] of report.matchAll(
    /<UnitTestResult ([^>]*outcome="Failed"[^>]*)>(?:[\s\S]*?<Message>([\s\S]*?)<\/Message>)?/g,
  ))
    failures.push(`${plain(/testName="([^"]*)"/.exec(attributes)?.[1])}: ${plain(message).slice(0, 600)}`);
  const counters = /<Counters ([^>]*)>/.exec(report)?.[1];
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
  const report = JSON.parse(read('browser.json') ?? 'null');
  for (const spec of report?.suites.flatMap(specsOf) ?? [])
    if (!spec.ok) failures.push(`${spec.file}: ${spec.title}: ${plain(spec.tests[0]?.results[0]?.error?.message).slice(0, 600)}`);
  const stats = report?.stats;
  return stats && { passed: stats.expected, failed: stats.unexpected + stats.flaky, skipped: stats.skipped };
}

function specsOf(suite) {
  return [...(suite.specs ?? []), ...(suite.suites ?? []).flatMap(specsOf)];
}

/** One line of text without entities and colours. */
function plain(text = '') {
  const entities = { quot: '"', amp: '&', lt: '<', gt: '>', apos: "'" };
  return text
    .replace(/&(quot|amp|lt|gt|apos);/g, (_, name) => entities[name])
    .replace(/&#x?[0-9A-Fa-f]+;|\s+/g, ' ')
    .replace(/\u001b\[[0-9;]*m/g, '');
}

function read(name) {
  try {
    return readFileSync(`${folder}/${name}`, 'utf8');
  } catch {
    return null;
  }
}
