/** Says whether this installation has a passphrase (--check), or sets the one that comes in. */
import { connect } from '@/server/db/client';
import { sessionKey, setPassphrase } from '@/server/passphrase';
import { ServerProblem } from '@/server/errors';

const url = process.env['DATABASE_URL'];
if (!url) throw new Error('DATABASE_URL is not set');
const db = connect(url, 2);
try {
  if (process.argv.includes('--check')) console.log((await sessionKey(db)) === null ? 'none' : 'set');
  else {
    let text = '';
    for await (const piece of process.stdin) text += String(piece);
    await setPassphrase(db, text.replace(/\r?\n$/, ''));
    console.log('set');
  }
} catch (error) {
  if (!(error instanceof ServerProblem)) throw error;
  console.error(error.message);
  process.exitCode = 1;
} finally {
  await db.destroy();
}
