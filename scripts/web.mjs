/**
 * The built app on an address and a port: `node scripts/web.mjs ADDRESS PORT`. What never changes under its name (scripts, styles,
 * fonts) is sent as the build packed it, without the app; every other request is the app's. Ends on SIGTERM or SIGINT once what it
 * was asked is answered. VANNER_WEB: how many processes answer (1).
 */
import cluster from 'node:cluster';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { ROOT } from './lib/paths.mjs';
import { keepProcesses } from './lib/web-processes.mjs';

const [hostname, port] = [process.argv[2] ?? '127.0.0.1', Number(process.argv[3] ?? 3000)];
const STATIC = '/_next/static/';
const YEAR_s = 365 * 24 * 3600;
/** An open connection that says nothing more does not hold the end up. */
const LAST_ms = 5000;

const ENDS = [
  { signal: 'SIGINT', code: 130 },
  { signal: 'SIGTERM', code: 143 },
];
const processes = Math.max(1, Math.trunc(Number(process.env.VANNER_WEB ?? '1')) || 1);

if (cluster.isPrimary && processes > 1) keepProcesses(processes, ENDS);
else await answerHere();

async function answerHere() {
  const [{ default: next }, { default: sirv }] = await Promise.all([import('next'), import('sirv')]);
  const app = next({ dev: false, dir: ROOT, hostname, port });
  const answer = app.getRequestHandler();
  const packed = sirv(join(ROOT, '.next', 'static'), {
    brotli: true,
    gzip: true,
    immutable: true,
    maxAge: YEAR_s,
    etag: true,
    setHeaders: (res) => {
      res.setHeader('vary', 'accept-encoding');
      res.setHeader('x-content-type-options', 'nosniff');
      res.setHeader('cross-origin-resource-policy', 'same-origin');
    },
  });

  const ready = app.prepare();
  const server = createServer((req, res) => {
    const toApp = () => {
      // Packing a page takes a twentieth of its time and saves nothing where no wire is.
      if (isHere(req)) delete req.headers['accept-encoding'];
      return ready.then(() => answer(req, res)).catch(failed(res));
    };
    if (!req.url.startsWith(STATIC) || (req.method !== 'GET' && req.method !== 'HEAD')) return void toApp();
    const whole = req.url;
    req.url = whole.slice(STATIC.length - 1);
    packed(req, res, () => {
      req.url = whole;
      void toApp();
    });
  });

  let ending = false;
  for (const { signal, code } of ENDS)
    process.on(signal, () => {
      if (ending) return;
      ending = true;
      const gone = async () => {
        await app.close().catch(console.error);
        process.exit(code);
      };
      server.close(() => void gone());
      server.closeIdleConnections();
      setTimeout(() => server.closeAllConnections(), LAST_ms).unref();
    });

  server.on('error', (error) => {
    console.error(error.message);
    process.exit(1);
  });
  server.listen(port, hostname);
  await ready;
}

function failed(res) {
  return (error) => {
    console.error(error);
    if (!res.headersSent) res.statusCode = 500;
    res.end();
  };
}

/** Asked on this machine itself and not through a door before it (`scripts/lib/tls.mjs`, a proxy), which says so in its headers. */
function isHere(req) {
  const own = /^(::1|(::ffff:)?127\.)/.test(req.socket.remoteAddress ?? '');
  return own && !Object.keys(req.headers).some((name) => /^(x-forwarded-|x-real-ip$|forwarded$|via$)/.test(name));
}
