import { spawn } from 'node:child_process';
import { Client } from 'pg';

/** The database that those of the spec files are copies of: the demo, made once a run by what `npm start` makes it with. */
const TEMPLATE = 'e2e_template';

const server = (): string => {
  const url = process.env['TEST_DATABASE_URL'];
  if (!url) throw new Error('TEST_DATABASE_URL is not set: run these through npm test -- e2e.');
  return url;
};

const at = (database: string): string => {
  const url = new URL(server());
  url.pathname = `/${database}`;
  return url.href;
};

async function say(query: string): Promise<void> {
  const client = new Client({ connectionString: server() });
  await client.connect();
  try {
    await client.query(query);
  } finally {
    await client.end();
  }
}

function prepare(url: string, ...more: string[]): Promise<void> {
  return new Promise((resolve, reject) => {
    const args = ['--import', 'tsx', 'scripts/db/prepare.ts', ...more];
    const child = spawn(process.execPath, args, { env: { ...process.env, DATABASE_URL: url }, stdio: ['ignore', 'ignore', 'inherit'] });
    child.on('close', (code) => (code === 0 ? resolve() : reject(new Error(`${args.join(' ')} ended with ${code}`))));
  });
}

/** Makes a database of its own for an app, with the demo in it unless `empty`; its address. */
export async function ownDatabase(name: string, empty: boolean): Promise<string> {
  if (empty) await prepare(at(name), '--empty');
  else await say(`CREATE DATABASE ${name} TEMPLATE ${TEMPLATE}`);
  return at(name);
}

/** Before the first spec: the template as this tree makes it, whatever an earlier run left. */
export default async function makeTemplate(): Promise<void> {
  await say(`DROP DATABASE IF EXISTS ${TEMPLATE} WITH (FORCE)`);
  await prepare(at(TEMPLATE));
}
