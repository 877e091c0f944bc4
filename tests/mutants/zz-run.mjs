// Puts single mistakes into a scratch clone, one at a time, and runs the tests of their place: which are noticed, which are not?
// ./sexton mutants [--known] [--named WORDS] [--sample N] [--seed N] [--place NAME]
import { execFileSync, spawnSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { isSkipped, operators } from './operators.mjs';
import { known } from './known.mjs';
import { places } from './places.mjs';

const argument = (name, otherwise) => {
  const at = process.argv.indexOf(`--${name}`);
  return at < 0 ? otherwise : (process.argv[at + 1] ?? otherwise);
};
const root = join(import.meta.dirname, '../..');
const seed = Number(argument('seed', 11));
const named = argument('named', '');
const sample = named || process.argv.includes('--known') ? 0 : Number(argument('sample', 100));
const only = argument('place', '');
const LONGEST = 240_000;

// mulberry32: a small generator, so that a seed gives the same sample everywhere.
let state = seed;
function random() {
  state = (state + 0x6d2b79f5) | 0;
  let t = Math.imul(state ^ (state >>> 15), 1 | state);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
}

function filesIn(path) {
  const at = join(root, path);
  if (statSync(at).isFile()) return [path];
  return readdirSync(at, { recursive: true })
    .filter((name) => name.endsWith('.cs') && !name.includes('NamespaceDoc'))
    .map((name) => join(path, name))
    .sort();
}

function mistakesIn(place) {
  const found = [];
  for (const file of place.files.flatMap(filesIn))
    readFileSync(join(root, file), 'utf8')
      .split('\n')
      .forEach((line, at) => {
        if (isSkipped(line)) return;
        for (const operator of operators)
          for (const change of operator.at(line)) found.push({ place, file, at, line, change, what: operator.name });
      });
  for (let i = found.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [found[i], found[j]] = [found[j], found[i]];
  }
  return found;
}

const scratch = mkdtempSync(join(tmpdir(), 'sexton-mutants-'));
process.on('exit', () => rmSync(scratch, { recursive: true, force: true }));
execFileSync('git', ['clone', '-q', root, scratch]);

function build(project) {
  const built = spawnSync(
    'dotnet',
    [
      'build',
      `tests/Sexton.${project}.Tests`,
      '-c',
      'Release',
      '-clp:NoSummary',
      '-p:RunAnalyzers=false',
      '-p:TreatWarningsAsErrors=false',
    ],
    // What a build leaves running would keep a pipe open.
    { cwd: scratch, stdio: 'ignore' },
  );
  return built.status === 0;
}

function test({ project, classes }) {
  const run = spawnSync(
    join(scratch, `artifacts/bin/Sexton.${project}.Tests/release/Sexton.${project}.Tests`),
    [...classes.flatMap((name) => ['-class', `*.${name}`]), '-stopOnFail', '-noLogo', '-noColor'],
    { cwd: scratch, encoding: 'utf8', timeout: LONGEST, killSignal: 'SIGKILL', env: { ...process.env, SEXTON_ROOT: scratch } },
  );
  const failed = /Sexton\.\w+\.Tests\.(\S+).* \[FAIL\]/.exec(run.stdout ?? '')?.[1];
  return { passed: run.status === 0, by: failed ?? (run.signal ? 'no end' : 'nothing ran'), told: run.stdout };
}

// What fails without a mistake notices none.
const sound = new Set();
function requireSound(suite) {
  const name = JSON.stringify(suite);
  if (sound.has(name)) return;
  if (!build(suite.project)) throw new Error('The scratch clone cannot be built.');
  const result = test(suite);
  if (!result.passed) throw new Error(`${name} fails without a mistake: ${result.told}`);
  sound.add(name);
}

/** Puts a mistake in, and says who noticed it; null for nobody, undefined where it does not compile. */
function tried(file, text, suites) {
  suites.forEach(requireSound);
  const path = join(scratch, file);
  const before = readFileSync(path, 'utf8');
  writeFileSync(path, text(before));
  try {
    for (const suite of suites) {
      if (!build(suite.project)) return undefined;
      const result = test(suite);
      if (result.by === 'nothing ran' && !result.passed) throw new Error(result.told);
      if (!result.passed) return result.by;
    }
    return null;
  } finally {
    writeFileSync(path, before);
  }
}

const CORE_TOO = { project: 'Core', classes: ['TrailTests', 'LaneTests', 'RoutingTests', 'FileTests', 'EntryTests'] };
const suitesOf = (place) => (place.alsoCore ? [CORE_TOO, place.tests] : [place.tests]);
const report = [];
let noticed = 0;
function tell(where, what, by) {
  if (by !== null) noticed++;
  const line = `${by === null ? 'NOT NOTICED' : 'noticed'} | ${where} | ${what} | ${by ?? ''}`;
  report.push(line);
  console.log(line);
  if (process.env.MUTANTS_LOG) appendFileSync(process.env.MUTANTS_LOG, line + '\n');
}

if (!only)
  for (const mistake of known.slice(-13)) {
    const by = tried(
      mistake.file,
      (text) => {
        if (text.split(mistake.from).length !== 2) throw new Error(`“${mistake.what}” has not one place in ${mistake.file}.`);
        return text.replace(mistake.from, () => mistake.to);
      },
      [mistake.tests],
    );
    if (by === undefined) throw new Error(`“${mistake.what}” does not compile.`);
    tell(mistake.file, mistake.what, by);
  }

const share = Math.ceil(sample / places.length);
for (const place of sample ? places.filter((p) => !only || p.name === only) : []) {
  let put = 0;
  for (const mistake of mistakesIn(place)) {
    if (put === share) break;
    const by = tried(
      mistake.file,
      (text) => {
        const lines = text.split('\n');
        const { from, length, to } = mistake.change;
        lines[mistake.at] = mistake.line.slice(0, from) + to + mistake.line.slice(from + length);
        return lines.join('\n');
      },
      suitesOf(place),
    );
    if (by === undefined) continue;
    put++;
    tell(`${mistake.file}:${mistake.at + 1}`, `${place.name}: ${mistake.what}: ${mistake.line.trim().slice(0, 100)}`, by);
  }
}
console.log(`${noticed} of ${report.length} noticed`);
