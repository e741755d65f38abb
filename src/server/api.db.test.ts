import type { StoredJob } from '@/core/documents/job';
import type { StoredRun } from '@/core/documents/run';
import { GET as health } from '@/app/api/health/route';
import { POST as postFile } from '@/app/api/files/route';
import { POST as postJob } from '@/app/api/jobs/route';
import { GET as getJob, PUT as putJob } from '@/app/api/jobs/[id]/route';
import { POST as postArchive } from '@/app/api/jobs/[id]/archive/route';
import { DELETE as deleteRun, PUT as putRun } from '@/app/api/runs/[id]/route';
import { GET as getChannel } from '@/app/api/runs/[id]/channels/[col]/route';
import { GET as getReport } from '@/app/api/runs/[id]/report/route';
import { TableReader } from '@/core/read/reader';
import { db, type Db } from './db/client';
import { storeFile } from './files/store';
import { addRuns } from './runs';
import { ask, at, bare, json, NOBODY, none, sendBytes, onFreshDatabase } from '../../test/api';

onFreshDatabase();
const create = async (name = 'Wren van'): Promise<StoredJob> => json(await postJob(ask({ name, preset: 'straight six, 2.9 L' }), none));

it('says that it and its database are up', async () => {
  expect(await json(await health())).toEqual({ app: 'vanner', database: true });
});

describe('jobs', () => {
  it('are made from a preset, read, saved and refused when stale', async () => {
    const job = await create();
    expect(job).toMatchObject({ version: 1, doc: { name: 'Wren van' } });
    const read = await json<StoredJob>(await getJob(bare(), at({ id: job.id })));
    expect(read.doc).toEqual(job.doc);
    const saved = await putJob(ask({ version: 1, doc: { ...job.doc, name: 'Renamed' } }, 'PUT'), at({ id: job.id }));
    expect(saved.status).toBe(200);
    expect(await json(saved)).toMatchObject({ version: 2, findings: { stops: expect.any(Array) } });
    const stale = await putJob(ask({ version: 1, doc: job.doc }, 'PUT'), at({ id: job.id }));
    expect(stale.status).toBe(409);
    expect(await json(stale)).toMatchObject({ error: 'stale', current: { version: 2, doc: { name: 'Renamed' } } });
  });

  it('are refused with the field when they are not valid', async () => {
    const job = await create();
    const wrong = await putJob(ask({ version: 1, doc: { ...job.doc, name: '  ' } }, 'PUT'), at({ id: job.id }));
    expect(wrong.status).toBe(422);
    expect(await json(wrong)).toMatchObject({ error: 'invalid', message: 'doc.name: Give the job a name.' });
    expect((await postJob(ask({ name: 'x', preset: 'rotary' }), none)).status).toBe(422);
    expect((await postJob(ask({ name: '', preset: 'straight six, 2.9 L' }), none)).status).toBe(422);
  });

  it('are duplicated and archived', async () => {
    const job = await create('Original');
    const copy = await postJob(ask({ duplicateOf: job.id }), none);
    expect(copy.status).toBe(201);
    expect(await json(copy)).toMatchObject({ doc: { name: 'Original (copy)' } });
    expect(await json(await postArchive(ask({ archived: true }), at({ id: job.id })))).toEqual({ archived: true });
    expect(await json<StoredJob>(await getJob(bare(), at({ id: job.id })))).toMatchObject({ archived: true });
  });

  it('that are not there are said not to be', async () => {
    for (const response of [
      await getJob(bare(), at({ id: NOBODY })),
      await postArchive(ask({ archived: true }), at({ id: NOBODY })),
      await postJob(ask({ duplicateOf: NOBODY }), none),
    ]) {
      expect(response.status).toBe(404);
      expect(await json(response)).toMatchObject({ error: 'not_found', message: 'This job does not exist (any more).' });
    }
  });
});

describe('files', () => {
  const send = (body: BodyInit | null, headers: Record<string, string> = {}): Promise<Response> => postFile(sendBytes(body, headers), none);

  it('are taken in and recognised', async () => {
    const first = await json<{ hash: string; size: number; known: boolean }>(await send('a,b\n1,2\n'));
    expect(first).toMatchObject({ size: 8, known: false });
    expect(await json(await send('a,b\n1,2\n'))).toEqual({ ...first, known: true });
  });

  it('too large, from elsewhere, or with nothing in them are refused', async () => {
    expect((await send('x', { 'content-length': String(400 * 1024 * 1024) })).status).toBe(413);
    expect((await send('x', { host: 'tuner.example' })).status).toBe(403);
    expect((await send('x', { origin: 'https://elsewhere.example' })).status).toBe(403);
    expect((await send(null)).status).toBe(400);
  });
});

describe('runs', () => {
  async function withRun(d: Db): Promise<StoredRun> {
    const job = await create('With a run');
    const bytes = new TextEncoder().encode('rpm,power (kW)\n2000,40\n3000,60\n4000,80\n');
    const reader = new TableReader();
    reader.push(bytes);
    const read = reader.finish();
    if (read.refused !== null) throw new Error(read.refused);
    return d.transaction().execute(async (trx) => {
      const { hash } = await storeFile(trx, new Blob([bytes]).stream());
      const side = { kind: 'stock' as const };
      const [run] = await addRuns(trx, { jobId: job.id, hash, fileName: 'stock.csv', side, columns: read.columns, report: read.report });
      return run!;
    });
  }

  it('give their report and one channel at a time, never as a page', async () => {
    const run = await withRun(db());
    expect(await json(await getReport(bare(), at({ id: run.id })))).toMatchObject({ rows: 3, skippedTotal: 0 });
    const channel = await getChannel(bare(), at({ id: run.id, col: '1' }));
    expect(channel.headers.get('content-type')).toBe('application/octet-stream');
    expect(channel.headers.get('content-disposition')).toBe('attachment');
    expect(Array.from(new Float64Array(await channel.arrayBuffer()))).toEqual([40, 60, 80]);
    const two = await getChannel(bare(), at({ id: run.id, col: '1,0' }));
    expect(Array.from(new Float64Array(await two.arrayBuffer()))).toEqual([40, 60, 80, 2000, 3000, 4000]);
    for (const col of ['7', '0,7', 'x', '0,', '1e0', '']) expect((await getChannel(bare(), at({ id: run.id, col }))).status).toBe(404);
    expect((await getReport(bare(), at({ id: NOBODY }))).status).toBe(404);
  });

  it('are saved with a version, and taken out, the finding following', async () => {
    const run = await withRun(db());
    const saved = await putRun(ask({ version: 1, doc: { ...run.doc, gear: '4th' } }, 'PUT'), at({ id: run.id }));
    expect(await json(saved)).toMatchObject({
      run: { version: 2, doc: { gear: '4th' } },
      findings: { stops: expect.arrayContaining([expect.objectContaining({ stop: 'test', runsA: 1 })]) },
    });
    expect((await putRun(ask({ version: 1, doc: run.doc }, 'PUT'), at({ id: run.id }))).status).toBe(409);
    expect((await putRun(ask({ version: 2, doc: { ...run.doc, takenOn: 'yesterday' } }, 'PUT'), at({ id: run.id }))).status).toBe(422);
    const gone = await deleteRun(bare('DELETE'), at({ id: run.id }));
    expect(await json(gone)).toMatchObject({
      findings: { stops: expect.arrayContaining([expect.objectContaining({ stop: 'test', runsA: 0 })]) },
    });
    expect((await deleteRun(bare('DELETE'), at({ id: run.id }))).status).toBe(404);
  });
});
