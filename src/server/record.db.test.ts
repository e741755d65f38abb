import { sql } from 'kysely';
import { presetJob } from '@/core/job/presets';
import { shopSettingsDoc } from '@/core/documents/shop';
import { DEMO_UNITS } from '@/server/demo/larkspur';
import { freshDatabase } from '../../test/database';
import type { Db, Trx } from './db/client';
import { listVersions, restoreVersion } from './history';
import { addJob, listJobs, readJob, saveJob } from './jobs';
import { checkPassphrase, sessionKey, setPassphrase } from './passphrase';
import { endedSessions, endSession, isSession, renewedSession, sessionCookie, sessionValue } from './session';
import { search } from './search';
import { listLinks, makeLink, openLink, revokeLink } from './share';
import { readShop, saveShop } from './shop';
import { listTrash, setTrashed } from './trash';
import { addUnit, listUnits, saveUnit } from './units';
import { asPerson, personNow, personOf } from './who';

let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => ({ db, drop } = await freshDatabase()));
afterAll(() => drop());
const within = <T>(work: (trx: Trx) => Promise<T>): Promise<T> => db.transaction().execute(work);
const doc = presetJob('Wren van', 'straight six, 2.9 L');

describe('history', () => {
  it('keeps what a document was, and who changed it', async () => {
    const job = await asPerson('Maud', () => within((trx) => addJob(trx, doc)));
    await asPerson('Tobin', () => within((trx) => saveJob(trx, job.id, 1, { ...doc, name: 'Wren van, blue' })));
    const versions = await listVersions(db, 'job', job.id);
    expect(versions.map((v) => [v.version, v.savedBy])).toEqual([
      [2, 'Tobin'],
      [1, 'Maud'],
    ]);
    expect(versions[1]!.doc).toMatchObject({ name: 'Wren van' });
  });

  it('of one person’s typing keeps the state it began from, not every keystroke', async () => {
    const job = await asPerson('Maud', () => within((trx) => addJob(trx, doc)));
    for (let v = 1; v <= 6; v += 1)
      await asPerson('Maud', () => within((trx) => saveJob(trx, job.id, v, { ...doc, name: `Wren van ${v}` })));
    expect((await listVersions(db, 'job', job.id)).map((v) => v.version)).toEqual([7, 1]);
    // Another person's change is kept at once.
    await asPerson('Tobin', () => within((trx) => saveJob(trx, job.id, 7, { ...doc, name: 'Mine now' })));
    expect((await listVersions(db, 'job', job.id)).map((v) => v.version)).toEqual([8, 7, 1]);
  });

  it('restores an older version as the newest, and loses nothing by it', async () => {
    const job = await within((trx) => addJob(trx, doc));
    await within((trx) => saveJob(trx, job.id, 1, { ...doc, name: 'Second' }));
    await within((trx) => restoreVersion(trx, 'job', job.id, 1, 2));
    expect(await readJob(db, job.id)).toMatchObject({ version: 3, doc: { name: 'Wren van' } });
    const versions = await listVersions(db, 'job', job.id);
    expect(versions.map((v) => v.version)).toEqual([3, 2, 1]);
    await expect(within((trx) => restoreVersion(trx, 'job', job.id, 1, 2))).rejects.toMatchObject({ status: 409 });
    await expect(within((trx) => restoreVersion(trx, 'job', job.id, 9, 3))).rejects.toMatchObject({ status: 404 });
  });

  it('a save that changes nothing leaves no trace of itself', async () => {
    const unit = await addUnit(db, DEMO_UNITS[0]!);
    await within((trx) => saveUnit(trx, unit.id, 1, unit.doc));
    expect(await listVersions(db, 'unit', unit.id)).toHaveLength(1);
  });

  it('takes the name from the request’s cookie, and none where it is not one', () => {
    const from = (cookie: string) => personOf(new Request('http://x/', { headers: { cookie } }));
    expect(from('a=b; vanner-person=Maud%20B')).toBe('Maud B');
    expect(from('vanner-person=%E0%A4%A')).toBe('');
    expect(from('')).toBe('');
    expect(personNow()).toBe('');
  });
});

describe('the trash', () => {
  it('takes a job off the board and gives it back whole', async () => {
    const job = await within((trx) => addJob(trx, { ...doc, name: 'Thrown away' }));
    await within((trx) => setTrashed(trx, 'job', job.id, true));
    expect((await listJobs(db)).some((j) => j.id === job.id)).toBe(false);
    await expect(readJob(db, job.id)).rejects.toMatchObject({ status: 404 });
    expect(await listTrash(db)).toContainEqual(expect.objectContaining({ kind: 'job', id: job.id, name: 'Thrown away' }));
    await within((trx) => setTrashed(trx, 'job', job.id, false));
    expect(await readJob(db, job.id)).toMatchObject({ doc: { name: 'Thrown away' }, version: 1 });
  });

  it('holds units taken off the shelf as well', async () => {
    const unit = await addUnit(db, { ...DEMO_UNITS[0]!, name: 'Off the shelf 60' });
    await within((trx) => setTrashed(trx, 'unit', unit.id, true));
    expect((await listUnits(db)).some((u) => u.id === unit.id)).toBe(false);
    expect((await listTrash(db)).map((t) => t.name)).toContain('Off the shelf 60');
  });

  it('refuses what is not there', async () => {
    await expect(within((trx) => setTrashed(trx, 'run', crypto.randomUUID(), true))).rejects.toMatchObject({ status: 404 });
    await expect(within((trx) => setTrashed(trx, 'run', 'x', true))).rejects.toMatchObject({ status: 404 });
  });
});

describe('search', () => {
  it('finds jobs, units and tags by any part of any word, and nothing out of the trash', async () => {
    const job = await within((trx) =>
      addJob(trx, { ...doc, name: 'Kestrel pickup', tags: ['hill climb'], car: { ...doc.car, goal: 'pulls flat at the top' } }),
    );
    await addUnit(db, { ...DEMO_UNITS[0]!, name: 'Kestrel 68' });
    expect((await search(db, 'kestrel')).map((f) => f.kind)).toEqual(['job', 'unit']);
    expect((await search(db, 'kest pick')).map((f) => f.title)).toEqual(['Kestrel pickup']);
    expect((await search(db, 'HILL CLIMB')).map((f) => f.id)).toEqual([job.id]);
    expect((await search(db, 'flat top')).map((f) => f.id)).toEqual([job.id]);
    expect((await search(db, String(job.number)))[0]).toMatchObject({ kind: 'job', id: job.id });
    await within((trx) => setTrashed(trx, 'job', job.id, true));
    expect((await search(db, 'kestrel')).map((f) => f.kind)).toEqual(['unit']);
  });

  it('takes signs as they stand and finds nothing for nothing', async () => {
    expect(await search(db, '  ')).toEqual([]);
    expect(await search(db, '100%_')).toEqual([]);
    expect(await search(db, "'; DROP TABLE job; --")).toEqual([]);
    expect((await listJobs(db)).length).toBeGreaterThan(0);
  });
});

describe('a customer’s link', () => {
  it('opens its job, counts the looks, and no more once it is revoked', async () => {
    const job = await within((trx) => addJob(trx, doc));
    const { link, token } = await makeLink(db, job.id, 30, 'us');
    expect(token).toHaveLength(43);
    expect(await openLink(db, token)).toMatchObject({ jobId: job.id, pack: 'us' });
    expect((await listLinks(db, job.id))[0]).toMatchObject({ opened: 1 });
    await revokeLink(db, job.id, link.id);
    expect(await openLink(db, token)).toBeNull();
    expect(await listLinks(db, job.id)).toEqual([]);
    await expect(revokeLink(db, job.id, link.id)).rejects.toMatchObject({ status: 404 });
  });

  it('is kept as a hash only, and dies with its day and with its job', async () => {
    const job = await within((trx) => addJob(trx, doc));
    const { token } = await makeLink(db, job.id, 7, 'metric');
    const { rows } = await sql<{ text: string }>`SELECT share_link::text AS text FROM share_link`.execute(db);
    expect(rows.some((r) => r.text.includes(token))).toBe(false);
    await within((trx) => setTrashed(trx, 'job', job.id, true));
    expect(await openLink(db, token)).toBeNull();
    await within((trx) => setTrashed(trx, 'job', job.id, false));
    await sql`UPDATE share_link SET expires_at = now() - interval '1 minute' WHERE job_id = ${job.id}`.execute(db);
    expect(await openLink(db, token)).toBeNull();
    expect(await openLink(db, 'guess')).toBeNull();
    expect(await openLink(db, 'A'.repeat(43))).toBeNull();
  });

  it('cannot be revoked through another job', async () => {
    const [a, b] = [await within((trx) => addJob(trx, doc)), await within((trx) => addJob(trx, doc))];
    const { link, token } = await makeLink(db, a.id, 7, 'metric');
    await expect(revokeLink(db, b.id, link.id)).rejects.toMatchObject({ status: 404 });
    expect(await openLink(db, token)).not.toBeNull();
  });
});

describe('the passphrase', () => {
  afterEach(async () => {
    await setPassphrase(db, null);
    await db.deleteFrom('sign_in_attempt').execute();
  });

  it('is taken, kept as a slow hash, and asked for', async () => {
    await setPassphrase(db, 'three plain words');
    const { rows } = await sql<{ value: string }>`SELECT value::text AS value FROM meta WHERE key = 'passphrase'`.execute(db);
    expect(rows[0]!.value).not.toContain('three');
    await expect(checkPassphrase(db, 'three plain words', 'here')).resolves.toBeUndefined();
    await expect(checkPassphrase(db, 'three plane words', 'here')).rejects.toMatchObject({ status: 401 });
  });

  it('that is short is refused', async () => {
    await expect(setPassphrase(db, 'short')).rejects.toMatchObject({ status: 422 });
    expect(await sessionKey(db)).toBeNull();
  });

  it('that is long and still among the first to be guessed is refused, and says why and what would do', async () => {
    for (const guessed of ['passwordpassword', 'qwertyuiop123', 'aaaaaaaaaaaaaaaa', '0123456789012', 'letmein12345'])
      await expect(setPassphrase(db, guessed)).rejects.toMatchObject({
        status: 422,
        code: 'guessable',
        message: expect.stringMatching(/guess.*three or four/i) as string,
      });
    for (const good of ['three plain words', 'Öl im Turm am Montag', 'x'.repeat(300) + ' wren gate 7 copper'])
      await expect(setPassphrase(db, good)).resolves.toBeUndefined();
  });

  const wrongly = async (n: number, from: string): Promise<void> => {
    for (let i = 0; i < n; i += 1) await expect(checkPassphrase(db, `guess ${i}`, from)).rejects.toMatchObject({ status: 401 });
  };

  it('wrong attempts slow down the next ones from there, the right words included, until they have waited', async () => {
    await setPassphrase(db, 'three plain words');
    await wrongly(5, 'there');
    await expect(checkPassphrase(db, 'three plain words', 'there')).rejects.toMatchObject({
      status: 429,
      data: { wait_s: expect.any(Number) },
    });
    // Who sits elsewhere does not wait for them.
    await expect(checkPassphrase(db, 'three plain words', 'here')).resolves.toBeUndefined();
    await sql`UPDATE sign_in_attempt SET at = at - interval '20 minutes'`.execute(db);
    await expect(checkPassphrase(db, 'three plain words', 'there')).resolves.toBeUndefined();
  });

  it('many guesses at once are counted each: no more than the free ones are tried', async () => {
    await setPassphrase(db, 'three plain words');
    const tries = await Promise.allSettled(Array.from({ length: 12 }, (_, i) => checkPassphrase(db, `guess ${i}`, 'there')));
    const told = tries.map((t) => (t.status === 'rejected' ? (t.reason as { status: number }).status : 200));
    expect(told.filter((s) => s === 401)).toHaveLength(5);
    expect(told.filter((s) => s === 429)).toHaveLength(7);
  });

  it('guesses from ever new addresses slow down whoever is new, and nobody who has been in from theirs', async () => {
    await setPassphrase(db, 'three plain words');
    await checkPassphrase(db, 'three plain words', 'the shop');
    await sql`INSERT INTO sign_in_attempt (who) SELECT 'made up ' || n FROM generate_series(1, 60) n`.execute(db);
    await expect(checkPassphrase(db, 'three plain words', 'made up 99')).rejects.toMatchObject({ status: 429 });
    await expect(checkPassphrase(db, 'three plain words', 'the shop')).resolves.toBeUndefined();
  });

  it('a clock that was set back locks nobody out for longer than the longest wait', async () => {
    await setPassphrase(db, 'three plain words');
    await sql`INSERT INTO sign_in_attempt (who, at) SELECT 'there', clock_timestamp() + interval '5 days' FROM generate_series(1, 60) n`.execute(
      db,
    );
    await expect(checkPassphrase(db, 'three plain words', 'there')).resolves.toBeUndefined();
  });

  it('a session is signed, runs out, and ends with its passphrase', async () => {
    await setPassphrase(db, 'three plain words');
    const key = (await sessionKey(db))!;
    const now = Date.parse('2026-04-25T10:00:00Z');
    const value = sessionValue(key, now);
    expect(isSession(value, key, now + 1000)).toBe(true);
    const day = 86_400_000;
    // Idle for three days it ends; in use it goes on, but not for more than a fortnight.
    expect(isSession(value, key, now + 3.1 * day)).toBe(false);
    expect(renewedSession(value, key, now + 60_000)).toBeNull();
    let used = value;
    for (let at = 2; at < 14; at += 2) {
      expect(isSession(used, key, now + at * day)).toBe(true);
      used = renewedSession(used, key, now + at * day)!;
    }
    expect(isSession(used, key, now + 14.1 * day)).toBe(false);
    const [since, seen, id, mark] = value.split('.');
    for (const forged of [
      undefined,
      '',
      'x',
      `${since}.${seen}.${id}.`,
      `${since}.${seen}.${id}.AAAA`,
      `${Number(since) + 1}.${seen}.${id}.${mark}`,
      `${since}.${Number(seen) + 1}.${id}.${mark}`,
      `${since}.${seen}.other.${mark}`,
    ])
      expect(isSession(forged, key, now)).toBe(false);
    expect(renewedSession(`${since}.${seen}.other.${mark}`, key, now + day)).toBeNull();
    // Signed out, every copy of it is out, renewed ones too; another session is not.
    const other = sessionValue(key, now);
    const copy = renewedSession(value, key, now + day)!;
    await endSession(db, value, key);
    const ended = await endedSessions(db);
    expect(isSession(value, key, now, ended)).toBe(false);
    expect(isSession(copy, key, now + day, ended)).toBe(false);
    expect(isSession(other, key, now, ended)).toBe(true);
    await endSession(db, 'forged', key);
    expect((await endedSessions(db)).size).toBe(1);
    await setPassphrase(db, 'four other plain words');
    expect(isSession(value, (await sessionKey(db))!, now)).toBe(false);
    const cookie = sessionCookie(value, true);
    for (const wanted of ['HttpOnly', 'SameSite=Strict', 'Secure', 'Path=/']) expect(cookie).toContain(wanted);
    expect(sessionCookie('', false)).toContain('Max-Age=0');
  });
});

it('a shop keeps its settings, and two people of one name are refused', async () => {
  const settings = shopSettingsDoc.parse({
    name: 'Mill Yard',
    people: ['Maud', 'Tobin'],
    paper: 'Letter',
    pack: 'us',
    repeatability_pct: 0.6,
  });
  await within((trx) => saveShop(trx, settings));
  expect(await readShop(db)).toEqual(settings);
  expect(shopSettingsDoc.safeParse({ people: ['Maud', 'maud'] }).success).toBe(false);
});
