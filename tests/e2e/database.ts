import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { promisify } from 'node:util';
import pg from 'pg';

const run = promisify(execFile);

/** A setting that the script hands to the tests. */
export function needed(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set. Run these tests with ./sexton test.`);
  return value;
}

export const root = needed('SEXTON_TEST_ROOT');
export const serverDll = needed('SEXTON_TEST_SERVER');
const adminConnection = needed('SEXTON_TEST_DATABASE');

export const manager = { email: 'imre@marrowby.example', name: 'Imre Halloway' };
export const support = { email: 'tamsin@marrowby.example', name: 'Tamsin Oakes' };
export const password = 'quince and hornbeam';

const template = 'template_of_worlds';

/** Makes the database that those of all worlds are copies of: the demo's catalogue, and accounts of staff. Playwright calls it once before all tests. */
export default async function makeTemplate(): Promise<void> {
  await withDatabase('postgres', async (client) => {
    await client.query(`drop database if exists ${template}`);
    await client.query(`create database ${template}`);
  });
  await command('migrate');
  await command('import', join(root, 'demo/catalogue.json'));
  for (const [who, role] of [
    [manager, 'manager'],
    [support, 'support'],
  ] as const)
    await command('account', who.email, who.name, role);
}

/** A database as the tests find it before they have done anything. */
export async function makeDatabase(name: string): Promise<void> {
  await withDatabase('postgres', (client) => client.query(`create database ${name} template ${template}`));
}

async function command(...words: string[]): Promise<void> {
  const done = run('dotnet', [serverDll, ...words], { env: settingsFor(template) });
  done.child.stdin?.end(`${password}\n`);
  await done;
}

/** The environment of a server, or of one of its commands, on a database. */
export function settingsFor(database: string): NodeJS.ProcessEnv {
  return { ...process.env, SEXTON__DATABASE: connectionTo(database), SEXTON__KEY: Buffer.alloc(32, 7).toString('base64') };
}

function settingsOf(connection: string): Record<string, string> {
  return Object.fromEntries(
    connection.split(';').map((pair) => [pair.slice(0, pair.indexOf('=')).toLowerCase(), pair.slice(pair.indexOf('=') + 1)]),
  );
}

function connectionTo(database: string): string {
  return adminConnection.replace(/Database=[^;]*/, `Database=${database}`);
}

/** Does something in a database, by a connection of its own. */
export async function withDatabase<T>(database: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const settings = settingsOf(adminConnection);
  const client = new pg.Client({
    host: settings.host,
    port: Number(settings.port),
    user: settings.username,
    password: settings.password,
    database,
  });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}
