/** TLS for the shop's own network: an own certificate, trusted once on each phone, and a door before the app that speaks it. */
import { generateKeyPairSync, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import { networkInterfaces } from 'node:os';
import { join } from 'node:path';
import { LOCAL } from './paths.mjs';

const YEARS_OF_THE_AUTHORITY = 10;
/** Browsers refuse a server's certificate that is good for longer. */
const DAYS_OF_THE_SERVER = 800;
const RENEWED_DAYS_BEFORE = 60;
const DAY_ms = 86_400_000;

/** Addresses of this machine that another one can reach. */
export const ownAddresses = () =>
  Object.values(networkInterfaces()).flatMap((list) =>
    (list ?? []).filter((a) => !a.internal && a.family === 'IPv4').map((a) => a.address),
  );

const pairOfKeys = (forge) => {
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const pem = privateKey.export({ type: 'pkcs1', format: 'pem' });
  const key = forge.pki.privateKeyFromPem(pem);
  return { pem, key, publicKey: forge.pki.setRsaPublicKey(key.n, key.e) };
};

/** A certificate signed by an authority, or by itself where none is given. */
function certificate(forge, { name, keys, days, authority, extensions }) {
  const cert = forge.pki.createCertificate();
  cert.publicKey = keys.publicKey;
  // A serial number must be positive: its first byte is below 0x80 and not 0.
  cert.serialNumber = `4${randomBytes(15).toString('hex')}`;
  cert.validity.notBefore = new Date(Date.now() - DAY_ms);
  cert.validity.notAfter = new Date(Date.now() + days * DAY_ms);
  const subject = [{ name: 'commonName', value: name }];
  cert.setSubject(subject);
  cert.setIssuer(authority ? authority.cert.subject.attributes : subject);
  cert.setExtensions(extensions);
  cert.sign(authority ? authority.key : keys.key, forge.md.sha256.create());
  return forge.pki.certificateToPem(cert);
}

/** Key and certificate for the addresses, and the authority's certificate that a phone is to trust; made where they are missing or run out. */
export async function ownCertificate(addresses, folder = join(LOCAL, 'tls')) {
  const { default: forge } = await import('node-forge');
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const at = (name) => join(folder, name);
  const keep = (name, text) => writeFileSync(at(name), text, { mode: 0o600 });
  if (!existsSync(at('authority.key')) || !existsSync(at('authority.crt'))) {
    const keys = pairOfKeys(forge);
    keep('authority.key', keys.pem);
    keep(
      'authority.crt',
      certificate(forge, {
        name: 'Vanner, this shop',
        keys,
        days: 365 * YEARS_OF_THE_AUTHORITY,
        extensions: [
          { name: 'basicConstraints', cA: true, pathLenConstraint: 0, critical: true },
          { name: 'keyUsage', keyCertSign: true, cRLSign: true, critical: true },
          { name: 'subjectKeyIdentifier' },
        ],
      }),
    );
  }
  const wanted = JSON.stringify([...addresses].sort());
  const known = existsSync(at('server.json')) ? JSON.parse(readFileSync(at('server.json'), 'utf8')) : null;
  if (known?.addresses !== wanted || known.until_ms - RENEWED_DAYS_BEFORE * DAY_ms < Date.now()) {
    const authority = {
      cert: forge.pki.certificateFromPem(readFileSync(at('authority.crt'), 'utf8')),
      key: forge.pki.privateKeyFromPem(readFileSync(at('authority.key'), 'utf8')),
    };
    const keys = pairOfKeys(forge);
    const text = certificate(forge, {
      name: addresses[0],
      keys,
      days: DAYS_OF_THE_SERVER,
      authority,
      extensions: [
        { name: 'basicConstraints', cA: false },
        { name: 'keyUsage', digitalSignature: true, keyEncipherment: true, critical: true },
        { name: 'extKeyUsage', serverAuth: true },
        {
          name: 'subjectAltName',
          altNames: addresses.map((a) => (/^[\d.]+$/.test(a) ? { type: 7, ip: a } : { type: 2, value: a })),
        },
      ],
    });
    keep('server.key', keys.pem);
    keep('server.crt', text);
    keep('server.json', JSON.stringify({ addresses: wanted, until_ms: Date.now() + DAYS_OF_THE_SERVER * DAY_ms }));
  }
  return {
    key: readFileSync(at('server.key'), 'utf8'),
    cert: readFileSync(at('server.crt'), 'utf8'),
    authority: readFileSync(at('authority.crt'), 'utf8'),
  };
}

/** Speaks TLS on `port` and hands every request on to the app on loopback. */
export function tlsDoor({ key, cert, port, host, appPort }) {
  const server = https.createServer({ key, cert }, (req, res) => {
    const headers = { ...req.headers, 'x-forwarded-proto': 'https', 'x-forwarded-for': req.socket.remoteAddress ?? '' };
    const ahead = http.request({ host: '127.0.0.1', port: appPort, method: req.method, path: req.url, headers }, (answer) => {
      res.writeHead(answer.statusCode ?? 502, answer.headers);
      // Live news have no end: what comes is passed on as it comes.
      answer.pipe(res);
    });
    ahead.on('error', () => {
      if (!res.headersSent) res.writeHead(502, { 'content-type': 'text/plain' });
      res.end('The app is not there just now.');
    });
    res.on('close', () => ahead.destroy());
    req.pipe(ahead);
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}

const STEPS = [
  ['Take the certificate', 'Tap the button. An iPhone says “Profile downloaded”; an Android phone keeps the file in its downloads.'],
  [
    'Install it',
    'iPhone: Settings, Profile downloaded, Install. Android: Settings, search for “CA certificate”, install the file in spite of the warning: it is your own.',
  ],
  [
    'Trust it',
    'iPhone only: Settings, General, About, Certificate Trust Settings, switch “Vanner, this shop” on. Then open the address below.',
  ],
];

/** A page over plain HTTP that hands a phone the certificate and tells the three steps; it gives away nothing else. */
export function trustDoor({ authority, port, host, address }) {
  const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>Trust this shop’s Vanner</title>
<style>body{font:18px/1.5 sans-serif;max-width:34em;margin:24px auto;padding:0 16px}a.b{display:block;padding:16px;background:#0e7c6b;color:#fff;text-align:center;border-radius:6px;text-decoration:none}li{margin:14px 0}</style>
<h1>Once on each phone</h1><ol>${STEPS.map(([title, text], i) => `<li><b>${title}.</b> ${text}${i === 0 ? '<p><a class="b" href="/vanner-shop.crt">Take the certificate</a>' : ''}</li>`).join('')}</ol>
<p><a class="b" href="${address}">${address}</a><p>Only phones of this shop should trust it. Its key stays on the shop’s machine.</html>`;
  const server = http.createServer((req, res) => {
    if (req.url === '/vanner-shop.crt') {
      res.writeHead(200, { 'content-type': 'application/x-x509-ca-cert', 'content-disposition': 'attachment; filename="vanner-shop.crt"' });
      res.end(authority);
    } else {
      res.writeHead(200, {
        'content-type': 'text/html; charset=utf-8',
        'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
      });
      res.end(page);
    }
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server));
  });
}
