import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type pg from 'pg';
import { makeDatabase, needed, root, serverDll, settingsFor, withDatabase } from './database';

const standInsDll = needed('SEXTON_TEST_STANDINS');

/** A server with its stand-ins on a database of its own: real processes, that can be killed. */
export class World {
  private standIns?: ChildProcess;
  private server?: ChildProcess;
  /** Called with every line that the server logs. */
  onLog: (line: string) => void = () => undefined;

  private constructor(
    readonly address: string,
    readonly standInAddress: string,
    private readonly environment: NodeJS.ProcessEnv,
    private readonly database: string,
    private readonly ports: { server: number; standIns: number; smtp: number; sftp: number },
  ) {}

  /** Creates one, whose server has some settings beside the usual ones. */
  static async create(settings: Record<string, string> = {}): Promise<World> {
    const name = `w${process.pid}_${Date.now()}`;
    await makeDatabase(name);
    const ports = { server: await freePort(), standIns: await freePort(), smtp: await freePort(), sftp: await freePort() };
    const standIns = `http://127.0.0.1:${ports.standIns}`;
    const address = `http://127.0.0.1:${ports.server}`;
    const environment = {
      ...settingsFor(name),
      SEXTON__PUBLICURL: address,
      SEXTON__MAILPORT: String(ports.smtp),
      SEXTON__BACKOFFICEURL: `${standIns}/back-office/`,
      SEXTON__PAYMENTSURL: `${standIns}/payments/`,
      SEXTON__TAXREGISTRYURL: `${standIns}/tax-registry/`,
      SEXTON__ADDRESSESURL: `${standIns}/addresses/`,
      SEXTON__INSIDENETWORKS: '127.0.0.0/8, ::1/128',
      SEXTON__TIMEOUTSECONDS: '3',
      SEXTON__PAYMENTTIMEOUTSECONDS: '2',
      SEXTON__ATTEMPTLEASESECONDS: '6',
      SEXTON__DELIVERYLEASESECONDS: '8',
      // Many shoppers come from one address here.
      ...Object.fromEntries(
        ['CARTS', 'UPLOADS', 'EVALUATIONS', 'SIGNINS', 'LINKS'].flatMap((work) =>
          ['EACH', 'ALL'].map((of) => [`SEXTON__LIMITS__${work}__${of}`, '1000000']),
        ),
      ),
      ...settings,
    };
    const world = new World(address, standIns, environment, name, ports);
    await world.startStandIns();
    await world.startServer();
    return world;
  }

  async startServer(): Promise<void> {
    this.server = spawn(...tied(serverDll, '--webroot', join(root, 'web/dist'), '--urls', this.address), {
      env: this.environment,
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let rest = '';
    this.server.stderr!.on('data', (chunk: Buffer) => {
      const lines = (rest + chunk.toString()).split('\n');
      rest = lines.pop() ?? '';
      lines.forEach((line) => this.onLog(line));
    });
    await answers(`${this.address}/health`);
  }

  /** Ends the server as a failing machine would: at once, whatever it is doing. */
  async killServer(): Promise<void> {
    const ended = new Promise((resolve) => this.server!.once('exit', resolve));
    this.server!.kill('SIGKILL');
    await ended;
  }

  async stop(): Promise<void> {
    for (const part of [this.server, this.standIns]) {
      if (part && part.exitCode === null && part.signalCode === null) {
        const ended = new Promise((resolve) => part.once('exit', resolve));
        part.kill('SIGTERM');
        await ended;
      }
    }
  }

  async dial(
    standIn: 'mail' | 'back-office' | 'payments' | 'tax-registry' | 'makers/ferrow' | 'makers/quill' | 'board',
    setting: object,
  ): Promise<void> {
    await fetch(`${this.standInAddress}/${standIn}/dial`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(setting),
    });
  }

  /** What a stand-in received. */
  async received<T>(
    what: 'mail/messages' | 'back-office/sales' | 'payments/charges' | 'makers/ferrow/jobs' | 'board/told' | 'files/inbox',
  ): Promise<T[]> {
    return (await (await fetch(`${this.standInAddress}/${what}`)).json()) as T[];
  }

  async query<T extends pg.QueryResultRow>(sql: string): Promise<T[]> {
    return withDatabase(this.database, async (client) => (await client.query<T>(sql)).rows);
  }

  private async startStandIns(): Promise<void> {
    const folder = mkdtempSync(join(tmpdir(), 'sexton-e2e-'));
    this.standIns = spawn(
      ...tied(
        standInsDll,
        '--Folder',
        folder,
        '--Urls',
        this.standInAddress,
        '--SmtpPort',
        String(this.ports.smtp),
        '--SftpPort',
        String(this.ports.sftp),
        '--ShopOrigin',
        this.address,
        '--ReportsUrl',
        `${this.address}/api/mail/v1/reports`,
      ),
      { stdio: 'ignore' },
    );
    await answers(`${this.standInAddress}/health`);
    // Whoever answered may be another's.
    if (this.standIns.exitCode !== null) throw new Error(`The stand-ins ended: is port ${this.ports.standIns} taken?`);
  }
}

// A program that ends when this process ends, however that comes about: a run that is cut off leaves nothing behind.
const tied = (...words: string[]): [string, string[]] => ['setpriv', ['--pdeathsig', 'KILL', '--', 'dotnet', ...words]];

// Ports are given out by turns, and not from those that the system gives to connections: between being found free and being listened at, one of those may go
// to somebody else, such as the world of another worker. Each run and each worker begins elsewhere.
let nextPort = 10_000 + (process.ppid % 200) * 100 + (Number(process.env['TEST_WORKER_INDEX'] ?? 0) % 8) * 12;

async function freePort(): Promise<number> {
  for (;;) {
    const port = nextPort++;
    const isFree = await new Promise<boolean>((resolve) => {
      const server = createServer();
      server.once('error', () => resolve(false));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(true)));
    });
    if (isFree) return port;
  }
}

async function answers(url: string): Promise<void> {
  for (let i = 0; i < 300; i++) {
    try {
      if ((await fetch(url)).ok) return;
    } catch {
      // Not yet.
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error(`${url} did not answer within 30 s.`);
}
